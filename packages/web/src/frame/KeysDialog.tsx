import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { grouped } from '@rellin/core/lists';
import { KEY_LINES, shownKeys } from '@rellin/core/keys';
import { useCollections, useQuickFilters, useSearches, useShortcuts } from '../api/queries';
import { CommandKey, KeyCap } from '../parts/KeyCap';
import { useWorkspaceActions } from '../workspace/workspace';

export function KeysDialog() {
  const { closeDialog } = useWorkspaceActions();
  const shortcuts = useShortcuts().data ?? [];
  const collections = useCollections().data ?? [];
  const quickFilters = useQuickFilters().data ?? [];
  const searches = useSearches().data ?? [];
  const own = [...shortcuts, ...collections, ...searches, ...quickFilters].filter((x) => x.keys !== null);
  return (
    <Dialog open onClose={closeDialog} maxWidth="md" aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys</DialogTitle>
      <DialogContent tabIndex={0}>
        <div className="keys-list">
          {own.length > 0 && (
            <section>
              <h3>Your own</h3>
              <dl>
                {own.map((x) => (
                  <div key={x.id}>
                    <dt>
                      <KeyCap>{shownKeys(x.keys!)}</KeyCap>
                    </dt>
                    <dd>{x.name}</dd>
                  </div>
                ))}
              </dl>
            </section>
          )}
          {[...grouped(KEY_LINES, (line) => line.where)].map(([title, lines]) => (
            <section key={title}>
              <h3>{title}</h3>
              <dl>
                {lines.map(({ keys, what }) => (
                  <div key={keys + what}>
                    <dt>{/^[A-Z]$/.test(keys) ? <CommandKey of={keys} /> : <KeyCap>{keys}</KeyCap>}</dt>
                    <dd>{what}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </div>
      </DialogContent>
    </Dialog>
  );
}
