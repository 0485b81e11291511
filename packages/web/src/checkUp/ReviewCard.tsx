import Button from '@mui/material/Button';
import type { ReviewGroupView, ShortcutView } from '@rellin/contract';
import type { ReviewKind } from '@rellin/core/review';
import { Link } from 'react-router';
import { useCollections } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { useGather } from '../acts/useGather';
import { useWorkspaceActions } from '../workspace/workspace';
import { ago } from '../parts/dates';
import { Tether } from '../parts/Tether';
import { locationText } from '../parts/locationText';
import { useCheckUpActs } from './useCheckUpActs';

const WORDS: Record<ReviewKind, string> = {
  'same-original': 'point to the same original',
  'same-content': 'hold the same, byte for byte',
  alike: 'have nearly the same name and the same size',
  'same-members': 'hold nearly the same members',
  shadowed: 'is in a folder that is pinned',
  'long-lost': 'has been lost for over 30 days',
  'never-opened': 'was never opened',
  stale: 'was not opened for half a year',
};
const MEANT: Partial<Record<ReviewKind, string>> = {
  'same-original': 'Keep both',
  'same-content': 'Keep both',
  alike: 'Keep both',
  'same-members': 'Keep both',
};

/** Something worth a look, with the one act that settles it, and the word that it is meant so. */
export function ReviewCard({
  group,
  shortcutOf,
}: {
  group: ReviewGroupView;
  shortcutOf(id: string): ShortcutView | undefined;
}) {
  const acts = useCheckUpActs();
  const d = useCommands();
  const gather = useGather();
  const { select } = useWorkspaceActions();
  const collections = useCollections().data;
  const items = group.items.flatMap((id) => shortcutOf(id) ?? []);
  const [first, ...rest] = items;
  const [kept, other] = group.collections;
  const spareCollection = collections?.find((c) => c.id === other?.id);
  if (!first && !kept) return null;
  const several = items.length > 1 || group.collections.length > 1;
  const title = first
    ? several
      ? `${items.length} shortcuts`
      : first.name
    : `${group.collections.length} collections`;
  const spare = several ? rest : items;
  return (
    <section className="check-card sheet" aria-label={`${title} ${WORDS[group.kind]}`}>
      <h2>
        {title} <span className="small">{WORDS[group.kind]}</span>
      </h2>
      <ul className="check-each">
        {items.map((s) => (
          <li key={s.id}>
            <button type="button" className="check-name" onClick={() => select({ type: 'shortcut', id: s.id })}>
              <Tether state={s.state} /> {s.name}
            </button>
            <span className="small cut" title={s.location}>
              {locationText(s)}
            </span>
            <span className="small">{s.lastOpenedAt ? `opened ${ago(s.lastOpenedAt)}` : 'never opened'}</span>
          </li>
        ))}
        {group.collections.map((c) => (
          <li key={c.id}>
            <Link to={`/collections/${c.id}`}>{c.name}</Link>
            <span className="small">{c.members} members</span>
          </li>
        ))}
      </ul>
      <div className="check-acts">
        {first ? (
          <Button
            variant="outlined"
            onClick={() =>
              void (spare.length === 1 ? d.removeShortcut(spare[0]!) : d.removeMany(spare.map((s) => s.id)))
            }
          >
            {several ? `Keep “${first.name}” only` : 'Remove shortcut'}
          </Button>
        ) : (
          <Button variant="outlined" onClick={() => spareCollection && void gather.removeCollection(spareCollection)}>
            Keep “{kept!.name}” only
          </Button>
        )}
        <Button variant="outlined" onClick={() => void acts.silence(group.id)}>
          {MEANT[group.kind] ?? 'It is meant so'}
        </Button>
      </div>
    </section>
  );
}
