/** The card while nothing is selected: the catalogue as a whole. */
import { Link } from 'react-router';
import { SHORTCUT_STATES, type ShortcutState } from '@rellin/core/identity';
import { useBoards, useCollections, useSearches, useShortcuts } from '../api/queries';
import { useKnown } from '../parts/Loaded';
import { STATE_WORDS, Tether } from '../parts/Tether';

/** States that somebody may want to look into. */
const TROUBLES: readonly ShortcutState[] = ['followed', 'saved-over', 'unsure', 'lost', 'no-access', 'away'];

export function OverviewCard() {
  const [catalogue, collections, searches, boards] = [useShortcuts(), useCollections(), useSearches(), useBoards()];
  const shortcuts = catalogue.data;
  // nobody is told of a catalogue without collections before they are counted
  const known = useKnown(catalogue, collections, searches, boards);
  if (!shortcuts || !known) return null;
  const parts = [
    ['/catalogue', shortcuts.length, 'shortcut'],
    ['/collections', collections.data?.length ?? 0, 'collection'],
    ['/searches', searches.data?.length ?? 0, 'saved search'],
    ['/boards', boards.data?.length ?? 0, 'board'],
  ] as const;
  const troubled = SHORTCUT_STATES.filter((state) => TROUBLES.includes(state)).flatMap((state) => {
    const count = shortcuts.filter((s) => s.state === state).length;
    return count > 0 ? [{ state, count }] : [];
  });
  return (
    <>
      <header className="card-head">
        <h2>Your catalogue</h2>
      </header>
      <ul className="overview">
        {parts.map(([to, count, word]) => (
          <li key={to}>
            <Link to={to}>
              <b>{count}</b> {count === 1 ? word : word === 'saved search' ? 'saved searches' : `${word}s`}
            </Link>
          </li>
        ))}
      </ul>
      {troubled.length > 0 && (
        <section>
          <h3>To look into</h3>
          <ul className="overview">
            {troubled.map(({ state, count }) => (
              <li key={state}>
                <Link to={`/catalogue?state=${state}`}>
                  <Tether state={state} /> {count} {STATE_WORDS[state].toLowerCase()}
                </Link>
              </li>
            ))}
          </ul>
        </section>
      )}
      <p className="small">
        Select something, and its card says where it is, how to reach it, and how often you open it.
      </p>
    </>
  );
}
