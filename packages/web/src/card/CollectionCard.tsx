import { useNavigate } from 'react-router';
import Button from '@mui/material/Button';
import { PublishedAt } from '../aliases/CardParts';
import { useCollections } from '../api/queries';
import { useWorkspaceActions } from '../workspace/workspace';
import { shortDate } from '../parts/dates';
import { CollectionPicture } from '../parts/Picture';
import { CollectionMark } from '../parts/CollectionMark';

const TYPE_WORDS = { plain: 'A collection', mirror: 'A mirror', 'working-set': 'A working set' } as const;

export function CollectionCard({ id }: { id: string }) {
  const collections = useCollections().data ?? [];
  const navigate = useNavigate();
  const { openDialog } = useWorkspaceActions();
  const c = collections.find((x) => x.id === id);
  if (!c) return null;
  const parents = collections.filter((p) => c.parents.includes(p.id));
  return (
    <>
      <header className="card-head">
        <CollectionPicture picture={c.picture} size={34} />
        <h2 title={c.name}>{c.name}</h2>
      </header>
      <p className="card-facts small">
        <CollectionMark colour={c.colour} type={c.type} />
        {TYPE_WORDS[c.type]} · {c.count} {c.count === 1 ? 'thing' : 'things'} · since {shortDate(c.addedAt)}
      </p>
      <div className="card-acts">
        <Button variant="contained" onClick={() => void navigate(`/collections/${c.id}`)}>
          Show what it holds
        </Button>
        {c.type !== 'mirror' && (
          <Button variant="outlined" onClick={() => openDialog({ kind: 'gather', collection: c })}>
            Add several…
          </Button>
        )}
      </div>
      {c.description && <p className="description">{c.description}</p>}
      {parents.length > 0 && (
        <section>
          <h3>Lies in</h3>
          <div className="chips">
            {parents.map((p) => (
              <button key={p.id} type="button" className="chip" onClick={() => void navigate(`/collections/${p.id}`)}>
                {p.name}
              </button>
            ))}
          </div>
        </section>
      )}
      {c.type !== 'mirror' && <PublishedAt source="collection" id={c.id} name={c.name} />}
    </>
  );
}
