/** Quick filters, and where Originals begins. */
import type { CatalogueFilter, OriginalId, PlaceId, QuickFilterView } from '@rellin/contract';
import { patch, post, remove } from '../../api/client';
import type { CommandTools } from '../useAttempt';

export const filterCommands = ({ attempt, done }: CommandTools) => ({
  keepQuickFilter: (name: string, filter: CatalogueFilter) =>
    attempt(async () => {
      await post('/quick-filters', { name, filter });
      await done(`Saved the quick filter “${name}”`);
      return true;
    }),
  renameQuickFilter: (filter: QuickFilterView, name: string) =>
    attempt(async () => {
      await patch(`/quick-filters/${filter.id}`, { name });
      await done(`The quick filter is called “${name}” now`);
      return true;
    }),
  removeQuickFilter: (filter: QuickFilterView) =>
    attempt(async () => {
      await remove(`/quick-filters/${filter.id}`);
      await done(`Removed the quick filter “${filter.name}”`);
    }),
  /** The folder that Originals opens in from now on; null for the first place. */
  startHere: (startFolder: { placeId: PlaceId; originalId: OriginalId } | null, name: string) =>
    attempt(async () => {
      await patch('/settings', { startFolder });
      await done(startFolder ? `Originals opens in “${name}” from now on` : 'Originals opens in the first place again');
      return true;
    }),
});
