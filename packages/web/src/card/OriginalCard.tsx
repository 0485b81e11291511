import type { OriginalId, PlaceId } from '@rellin/contract';
import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import Button from '@mui/material/Button';
import { kindWord } from '@rellin/core/kinds';
import { nameOf, parentOf, shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { useOriginal, useTags } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';
import { shortDate } from '../parts/dates';
import { CommandKey } from '../parts/KeyCap';
import { ReachRuler } from '../parts/ReachRuler';
import { tagProps } from '../parts/TagLabel';

const Preview = lazy(() => import('../preview/PreviewDialog').then((m) => ({ default: m.Preview })));
/** Small and still enough to be shown beside the list without being asked for. */
const PEEK = new Set(['picture', 'sound']);

export function OriginalCard({ placeId, id }: { placeId: PlaceId; id: OriginalId }) {
  const original = useOriginal(placeId, id);
  const allTags = useTags().data ?? [];
  const d = useCommands();
  const { openDialog, select } = useWorkspaceActions();
  if (original.isError) return <p className="small">{original.error.message}</p>;
  const o = original.data;
  if (!o) return null;
  const where = { placeId, originalId: id };
  const tags = allTags.filter((t) => o.tags.includes(t.id));
  const facts = [
    'An original',
    kindWord(o.kind),
    ...(o.type === 'file' ? [formatBytes(o.size)] : []),
    `changed ${shortDate(o.modified)}`,
  ];
  const folder = parentOf(o.path);
  return (
    <>
      <header className="card-head">
        <h2 title={shown(o.name)}>{shown(o.name)}</h2>
      </header>
      <p className="card-facts small">{facts.join(' · ')}</p>
      <div className="card-acts">
        <Button
          variant="contained"
          className="on-spruce"
          onClick={() => void d.addShortcut(where)}
          endIcon={<CommandKey of="N" />}
        >
          Add shortcut
        </Button>
        <Button variant="outlined" onClick={() => void d.addShortcut({ ...where, pin: true })}>
          Pin
        </Button>
        <Button variant="outlined" onClick={() => void d.open({ ...where, route: 'card' })}>
          Open
        </Button>
      </div>
      {o.shortcut && (
        <p className="small">
          It has a shortcut:{' '}
          <button type="button" className="chip" onClick={() => select({ type: 'shortcut', id: o.shortcut!.id })}>
            {o.shortcut.name}
          </button>
        </p>
      )}
      {o.preview && PEEK.has(o.preview) && o.size < 8_000_000 && (
        <div className="peek">
          <Suspense fallback={null}>
            <Preview placeId={placeId} originalId={id} name={o.name} />
          </Suspense>
        </div>
      )}
      {o.preview && o.preview !== 'folder' && (
        <div>
          <Button
            variant="outlined"
            onClick={() => openDialog({ kind: 'preview', placeId, originalId: id, name: o.name })}
            endIcon={<CommandKey of="V" />}
          >
            Preview
          </Button>
        </div>
      )}
      <section>
        <h3>Tags on the original</h3>
        <div className="chips">
          {tags.map((t) => (
            <Link key={t.id} {...tagProps(t)} to={`/collections/tag/${t.id}`}>
              {t.name}
            </Link>
          ))}
          <button
            type="button"
            className="chip add"
            onClick={() =>
              openDialog({ kind: 'tags', gathered: { shortcuts: [], originals: [{ ...where, name: o.name }] } })
            }
          >
            + tag
          </button>
        </div>
      </section>
      <section>
        <h3>Where it is</h3>
        <p className="location">
          <span className="mono">
            {shown(folder)}/<b>{shown(nameOf(o.path))}</b>
          </span>{' '}
          <button type="button" className="chip" onClick={() => void d.copy(o.path)}>
            Copy
          </button>
        </p>
      </section>
      <section>
        <h3>Reach by folders</h3>
        <ReachRuler reach={{ best: o.folderRoute, folderRoute: o.folderRoute, routes: [o.folderRoute] }} width={300} />
        <p className="small sentence">A pin would make it one step.</p>
      </section>
    </>
  );
}
