/** Where a lost original lies in a bin of the disk: said, and restored in one act. */
import Button from '@mui/material/Button';
import type { DeletedOriginal } from '@rellin/contract';
import { isWithin } from '@rellin/core/paths';
import { useDeleted } from '../api/queries';
import { fullDate } from '../parts/dates';
import { useCommands } from '../workspace/useCommands';

/** The latest that lay at a path, or that was a folder above it. */
export function inBin(deleted: readonly DeletedOriginal[], path: string): DeletedOriginal | undefined {
  return deleted
    .filter((d) => d.path !== null && (d.path === path || (d.isFolder && isWithin(d.path, path))))
    .sort((a, b) => (b.deletedAt ?? '').localeCompare(a.deletedAt ?? ''))[0];
}

export function InBin({ path }: { path: string }) {
  const d = useCommands();
  const bins = useDeleted().data ?? [];
  const found = inBin(
    bins.flatMap((b) => b.originals),
    path,
  );
  if (!found) return null;
  const what = found.path === path ? 'Its original' : `The folder “${found.name}” it lay in`;
  return (
    <>
      <p>
        {what} is in the bin{found.deletedAt ? `, deleted ${fullDate(found.deletedAt)}` : ''}.
      </p>
      <Button variant="contained" onClick={() => void d.restore([found])}>
        Restore
      </Button>
    </>
  );
}
