/** The bin, in two parts that never look alike: what was removed from the catalogue, and deleted originals. */
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { Link, useParams } from 'react-router';
import { useBin, useBoardsBin, useCollectionsBin, useDeleted, useSearchesBin } from '../api/queries';
import { ViewHead } from '../parts/Roving';
import { DeletedPart } from './DeletedPart';
import { RemovedPart } from './RemovedPart';
import './bin.css';

const counted = (text: string, n: number) => (n === 0 ? text : `${text} (${n})`);

export default function BinView() {
  const part = useParams()['part'] === 'originals' ? 'originals' : 'removed';
  const removed = [useBin().data, useCollectionsBin().data, useSearchesBin().data, useBoardsBin().data];
  const deleted = useDeleted().data ?? [];
  const nRemoved = removed.reduce((sum, list) => sum + (list?.length ?? 0), 0);
  const nDeleted = deleted.reduce((sum, bin) => sum + bin.originals.length, 0);
  return (
    <main className="view fills" id="view">
      <ViewHead>
        <h1>Bin</h1>
      </ViewHead>
      <Tabs value={part} aria-label="Parts of the bin" className="bin-tabs">
        <Tab
          value="removed"
          id="tab-removed"
          aria-controls="bin-part"
          label={counted('Removed shortcuts and lists', nRemoved)}
          component={Link}
          to="/bin"
        />
        <Tab
          value="originals"
          id="tab-originals"
          aria-controls="bin-part"
          label={counted('Deleted originals', nDeleted)}
          component={Link}
          to="/bin/originals"
        />
      </Tabs>
      <div id="bin-part" role="tabpanel" aria-labelledby={`tab-${part}`} className={`bin-part ${part}`}>
        {part === 'originals' ? <DeletedPart /> : <RemovedPart />}
      </div>
    </main>
  );
}
