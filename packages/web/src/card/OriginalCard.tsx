import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import Button from '@mui/material/Button';
import { kindWord } from '@rellin/core/kinds';
import { nameOf, parentOf, shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { useOriginal, useTags } from '../api/queries';
import { useDo } from '../desk/useDo';
import { useDesk } from '../desk/desk';
import { shortDate } from '../parts/dates';
import { CommandKey } from '../parts/KeyCap';
import { ReachRuler } from '../parts/ReachRuler';
import { tagLook } from '../parts/TagLabel';

const Look = lazy(() => import('../look/LookDialog').then((m) => ({ default: m.Look })));
/** Small and still enough to be shown beside the list without being asked for. */
const PEEK = new Set(['picture', 'sound']);

export function OriginalCard({ placeId, id }: { placeId: number; id: string }) {
  const original = useOriginal(placeId, id);
  const allTags = useTags().data ?? [];
  const d = useDo();
  const { openDialog, select } = useDesk();
  if (original.isError) return <p className="small">{original.error.message}</p>;
  const o = original.data;
  if (!o) return null;
  const where = { placeId, originalId: Number(id) };
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
      {o.look && PEEK.has(o.look) && o.size < 8_000_000 && (
        <div className="peek">
          <Suspense fallback={null}>
            <Look placeId={placeId} originalId={id} name={o.name} />
          </Suspense>
        </div>
      )}
      {o.look && o.look !== 'folder' && (
        <div>
          <Button
            variant="outlined"
            onClick={() => openDialog({ kind: 'look', placeId, originalId: id, name: o.name })}
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
            <Link key={t.id} {...tagLook(t)} to={`/collections/tag/${t.id}`}>
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
        <ReachRuler reach={{ best: o.walk, walk: o.walk, routes: [o.walk] }} width={300} />
        <p className="small sentence">A pin would make it one step.</p>
      </section>
    </>
  );
}
