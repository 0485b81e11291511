import { NavLink } from 'react-router';
import {
  useBin,
  useBoards,
  useBoardsBin,
  useCheckUp,
  useCollections,
  useCollectionsBin,
  usePlaces,
  useSearches,
  useSearchesBin,
  useShortcuts,
  useSweeps,
} from '../api/queries';
import { roving } from '../parts/Roving';
import { VIEWS } from '../workspace/views';

/** Views whose count is of what waits for the person. */
const ATTENTION: ReadonlySet<string> = new Set(['Check-up', 'Sweeps']);
const number = new Intl.NumberFormat('en-GB');

export function SideNav() {
  const shortcuts = useShortcuts().data;
  const bin = useBin().data;
  const places = usePlaces().data;
  const collections = useCollections().data;
  const searches = useSearches().data;
  const binned = useCollectionsBin().data;
  const searchesBinned = useSearchesBin().data;
  const boards = useBoards().data;
  const boardsBinned = useBoardsBin().data;
  const checkUp = useCheckUp().data;
  const sweeps = useSweeps().data;
  const counts: Record<string, number | undefined> = {
    Catalogue: shortcuts?.length,
    Originals: places?.reduce((sum, p) => sum + p.entries, 0),
    Collections: collections?.length,
    Searches: searches?.length,
    Boards: boards?.length,
    'Check-up': (checkUp && checkUp.folderMoves.length + checkUp.needs.length) || undefined,
    Sweeps: sweeps?.filter((s) => s.isDue).length || undefined,
    Bin:
      (bin &&
        binned &&
        searchesBinned &&
        boardsBinned &&
        bin.length + binned.length + searchesBinned.length + boardsBinned.length) ||
      undefined,
  };
  return (
    <nav className="side-nav" aria-label="Views" {...roving}>
      <ul>
        {VIEWS.map((view, i) => (
          <li key={view.path} className={i > 0 && VIEWS[i - 1]!.group !== view.group ? 'new-group' : ''}>
            <NavLink to={view.path}>
              <span>{view.name}</span>
              {counts[view.name] !== undefined && (
                <span className={ATTENTION.has(view.name) ? 'count attention' : 'count'}>
                  {number.format(counts[view.name]!)}
                </span>
              )}
            </NavLink>
          </li>
        ))}
      </ul>
    </nav>
  );
}
