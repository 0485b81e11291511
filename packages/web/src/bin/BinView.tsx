/** The bin, in two parts that never look alike: what was removed from the catalogue, and deleted originals. */
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { Link, useParams } from 'react-router';
import { useBin, useBoardsBin, useCollectionsBin, useDeleted, useSearchesBin } from '../api/queries';
import { ViewHead } from '../parts/Roving';
import { DeletedPart } from './DeletedPart';
import { RemovedPart } from './RemovedPart';
import './bin.css';

const PARTS = [
  { id: 'removed', name: 'Removed shortcuts and lists', path: '/bin' },
  { id: 'originals', name: 'Deleted originals', path: '/bin/originals' },
] as const;

export default function BinView() {
  const part = useParams()['part'] === 'originals' ? 'originals' : 'removed';
  const removed = [useBin().data, useCollectionsBin().data, useSearchesBin().data, useBoardsBin().data];
  const deleted = useDeleted().data ?? [];
  const counts = {
    removed: removed.reduce((sum, list) => sum + (list?.length ?? 0), 0),
    originals: deleted.reduce((sum, bin) => sum + bin.originals.length, 0),
  };
  return (
    <main className="view fills" id="view">
      <ViewHead>
        <h1>Bin</h1>
      </ViewHead>
      <Tabs value={part} aria-label="Parts of the bin" className="bin-tabs">
        {PARTS.map(({ id, name, path }) => (
          <Tab
            key={id}
            value={id}
            id={`tab-${id}`}
            aria-controls="bin-part"
            label={counts[id] === 0 ? name : `${name} (${counts[id]})`}
            component={Link}
            to={path}
          />
        ))}
      </Tabs>
      <div id="bin-part" role="tabpanel" aria-labelledby={`tab-${part}`} className={`bin-part ${part}`}>
        {part === 'originals' ? <DeletedPart /> : <RemovedPart />}
      </div>
    </main>
  );
}
