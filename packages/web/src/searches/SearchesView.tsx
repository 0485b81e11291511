/** Saved searches: which there are and what is new in them, and the one that is open. */
import { NavLink, useNavigate, useParams, useSearchParams } from 'react-router';
import Button from '@mui/material/Button';
import { formatQuery } from '@rellin/core/query';
import { idIn } from '../api/idIn';
import { useOriginal, useSearches } from '../api/queries';
import { useActs } from '../acts/useActs';
import { actForKey } from '../acts/acts';
import { useWorkspaceActions } from '../workspace/workspace';
import { SearchMark } from '../parts/CollectionMark';
import { NotLoaded } from '../parts/Loaded';
import { DragHandle } from '../parts/DragRow';
import { Roving } from '../parts/Roving';
import { GoneState } from '../parts/GoneState';
import { SearchPane } from './SearchPane';
import './searches.css';

const number = new Intl.NumberFormat('en-GB');

/** A new search, which may begin with a folder it is to look into. */
function NewSearch() {
  const [placeId, folderId] = useSearchParams()[0].get('in')?.split('/') ?? [];
  const folder = useOriginal(idIn(placeId), idIn(folderId));
  if (placeId !== undefined && folder.isPending) return <section className="search" aria-busy="true" />;
  const folders = folder.data?.trail.map((step) => step.name);
  return (
    <SearchPane
      key={folders?.join('/') ?? ''}
      search={undefined}
      begin={folders && formatQuery({ type: 'in', folders })}
    />
  );
}

export default function SearchesView() {
  const { searchId } = useParams();
  const searches = useSearches();
  const navigate = useNavigate();
  const { openMenu } = useWorkspaceActions();
  const acts = useActs('search');
  const list = searches.data ?? [];
  const current = list.find((s) => s.id === searchId) ?? (searchId ? undefined : list[0]);
  return (
    <main className="view fills" id="view">
      <Roving>
        <div className="view-head">
          <h1>Searches</h1>
          <span className="push" />
          <Button variant="outlined" onClick={() => void navigate('/searches/new')}>
            New search
          </Button>
        </div>
        {searches.isError ? (
          <NotLoaded
            title="The saved searches could not be loaded"
            error={searches.error}
            onAgain={() => void searches.refetch()}
          />
        ) : (
          searches.data && (
            <div className="searches">
              <nav className="search-list" aria-label="Saved searches">
                {list.length === 0 && (
                  <p className="small">None is saved yet. What you ask here can be kept under a name.</p>
                )}
                <ul>
                  {list.map((s) => (
                    <li key={s.id}>
                      <NavLink
                        to={`/searches/${s.id}`}
                        className={s === current ? 'active' : ''}
                        onContextMenu={(event) => {
                          event.preventDefault();
                          openMenu({ type: 'search', search: s }, { x: event.clientX, y: event.clientY });
                        }}
                        onKeyDown={(event) => {
                          const box = event.currentTarget.getBoundingClientRect();
                          if (event.key === 'F10' && event.shiftKey)
                            openMenu({ type: 'search', search: s }, { x: box.left + 30, y: box.bottom });
                          else {
                            const act =
                              event.ctrlKey || event.altKey
                                ? undefined
                                : actForKey(acts({ type: 'search', search: s }), event.key);
                            if (!act) return;
                            act.run();
                          }
                          event.preventDefault();
                          event.stopPropagation();
                        }}
                      >
                        <DragHandle id={`search-${s.id}`} item={{ type: 'search', search: s }}>
                          <SearchMark colour={s.colour} />
                          <span className="cut">{s.name}</span>
                        </DragHandle>
                        {s.came > 0 && !s.muted && <span className="fresh">+{s.came}</span>}
                        <span className="count">{number.format(s.count)}</span>
                      </NavLink>
                    </li>
                  ))}
                </ul>
              </nav>
              <div data-own-stops style={{ display: 'contents' }}>
                {searchId && searchId !== 'new' && !current ? (
                  <GoneState what="saved search" />
                ) : current ? (
                  <SearchPane key={current.id} search={current} />
                ) : (
                  <NewSearch />
                )}
              </div>
            </div>
          )
        )}
      </Roving>
    </main>
  );
}
