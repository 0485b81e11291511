/** All that is wrong or doubtful, with what to do about it. */
import { useSearchParams } from 'react-router';
import Button from '@mui/material/Button';
import type { ShortcutView } from '@rellin/contract';
import { LinksPart } from '../aliases/LinksPart';
import { useAliases, useFoundLinks, usePublications } from '../aliases/useAliases';
import { useActivity, useCheckUp, useReview, useShortcuts } from '../api/queries';
import { useKnown, Loading, NotLoaded } from '../parts/Loaded';
import { shortDate } from '../parts/dates';
import { EmptyState } from '../parts/EmptyState';
import { roving, ViewHead } from '../parts/Roving';
import { FolderMoveCard } from './FolderMoveCard';
import { NeedCard } from './NeedCard';
import { ReviewCard } from './ReviewCard';
import { REVIEW_PARTS, STATE_PARTS, type Part } from './parts';
import { StateList } from './StateList';
import { useCheckUpActs } from './useCheckUpActs';
import './checkUp.css';

const NONE: ShortcutView[] = [];
/** So many are drawn; nobody works through more at one sitting. */
const MOST = 60;

export default function CheckUpView() {
  const checkUp = useCheckUp();
  const reviewed = useReview();
  const review = reviewed.data ?? [];
  const catalogue = useShortcuts();
  const shortcuts = catalogue.data ?? NONE;
  const checking = useActivity().data?.some((a) => a.id === 'check-up') ?? false;
  const [params, setParams] = useSearchParams();
  const acts = useCheckUpActs();
  const show = (params.get('show') ?? 'needs') as Part;
  const view = checkUp.data;
  const byId = new Map(shortcuts.map((s) => [s.id, s]));
  const left = new Set(view?.leftAlone);
  const inState = (part: Part) => {
    const states = STATE_PARTS.find((p) => p.part === part)?.states ?? [];
    return part === 'left'
      ? shortcuts.filter((s) => left.has(s.id))
      : shortcuts.filter((s) => states.includes(s.state));
  };
  const inReview = (part: Part) => {
    const kinds: readonly string[] = REVIEW_PARTS.find((p) => p.part === part)?.kinds ?? [];
    return review.filter((g) => kinds.includes(g.kind));
  };
  const [aliases, publications, found] = [useAliases(), usePublications(), useFoundLinks()];
  const links = [aliases.data, publications.data, found.data?.links].reduce(
    (sum, list) => sum + (list?.length ?? 0),
    0,
  );
  const known = useKnown(checkUp, reviewed, catalogue, aliases, publications, found);
  const needs = view && view.folderMoves.length + view.needs.length;
  const tabs: { part: Part; title: string; count: number | undefined }[] = [
    { part: 'needs', title: 'Needs you', count: needs },
    ...STATE_PARTS.map(({ part, title }) => ({ part, title, count: inState(part).length })),
    ...REVIEW_PARTS.map(({ part, title }) => ({ part, title, count: inReview(part).length })),
    { part: 'links', title: 'Links on disk', count: links },
  ];
  const shown = tabs.filter((t) => t.part === 'needs' || t.part === show || (t.count ?? 0) > 0);
  return (
    <main className="view check-up" id="view">
      <ViewHead>
        <h1>Check-up</h1>
        <span className="small">
          {shortcuts.length} shortcuts
          {view?.checkedAt && ` · checked ${shortDate(view.checkedAt, new Date())}`}
          {view && ` · next ${shortDate(view.nextAt, new Date())}`}
        </span>
        <span className="push" />
        <Button variant="outlined" disabled={checking} onClick={() => void acts.checkNow()}>
          {checking ? 'Checking…' : 'Check now'}
        </Button>
      </ViewHead>
      {known && (
        <div className="check-parts" role="tablist" aria-label="Parts of the check-up" {...roving}>
          {shown.map((t) => (
            <button
              key={t.part}
              type="button"
              role="tab"
              aria-selected={t.part === show}
              className="check-part"
              onClick={() => setParams(t.part === 'needs' ? {} : { show: t.part }, { replace: true })}
            >
              {t.title} {t.count !== undefined && <span className="count">{t.count}</span>}
            </button>
          ))}
        </div>
      )}
      {!known ? (
        <Loading />
      ) : checkUp.isError ? (
        <NotLoaded
          title="The check-up could not be loaded"
          error={checkUp.error}
          onAgain={() => void checkUp.refetch()}
        />
      ) : show === 'needs' ? (
        view && (
          <>
            {needs === 0 && (
              <EmptyState title="Nothing needs you">
                Every shortcut opens what it stands for, or says itself why it cannot just now. Rellin goes on looking.
              </EmptyState>
            )}
            {view.folderMoves.map((move) => (
              <FolderMoveCard key={move.id} move={move} nameOf={(id) => byId.get(id)?.name ?? ''} />
            ))}
            {view.needs.slice(0, MOST).map((need) => {
              const shortcut = byId.get(need.shortcutId);
              return shortcut && <NeedCard key={need.shortcutId} need={need} shortcut={shortcut} among={view.among} />;
            })}
            {view.needs.length > MOST && (
              <p className="small">{view.needs.length - MOST} more come up as these are dealt with.</p>
            )}
          </>
        )
      ) : show === 'links' ? (
        <LinksPart shortcutOf={(id) => byId.get(id)} />
      ) : STATE_PARTS.some((p) => p.part === show) ? (
        <StateList part={show} shortcuts={inState(show)} />
      ) : (
        reviewed.data && (
          <>
            {inReview(show).length === 0 && (
              <EmptyState title="None of them">There is nothing of this kind in your catalogue.</EmptyState>
            )}
            {inReview(show)
              .slice(0, MOST)
              .map((group) => (
                <ReviewCard key={group.id} group={group} shortcutOf={(id) => byId.get(id)} />
              ))}
          </>
        )
      )}
    </main>
  );
}
