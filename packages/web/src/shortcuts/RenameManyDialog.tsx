/** Renaming many by one pattern, with a preview of every name before it is done. */
import { useMemo, useState } from 'react';
import TextField from '@mui/material/TextField';
import type { ShortcutView } from '@rellin/contract';
import { renamedBy } from '@rellin/core/collections';
import { nameOf } from '@rellin/core/paths';
import { useCommands } from '../workspace/useCommands';
import { FormDialog } from '../parts/FormDialog';
import './renameMany.css';

export function RenameManyDialog({ shortcuts, onClose }: { shortcuts: ShortcutView[]; onClose: () => void }) {
  const d = useCommands();
  const [pattern, setPattern] = useState('{name}');
  const [busy, setBusy] = useState(false);
  const renamed = useMemo(
    () =>
      renamedBy(
        pattern,
        shortcuts.map((s) => ({ name: s.name, original: s.target === 'original' ? nameOf(s.location) : s.name })),
      ),
    [pattern, shortcuts],
  );
  const changed = renamed.ok ? renamed.names.filter((name, i) => name !== shortcuts[i]!.name).length : 0;
  return (
    <FormDialog
      wide
      title={`Rename ${shortcuts.length} shortcuts`}
      submit={`Rename ${changed}`}
      busy={busy || changed === 0}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        if (!renamed.ok) return;
        setBusy(true);
        const names = shortcuts.map((s, i) => ({ id: s.id, name: renamed.names[i]! }));
        void d.renameMany(names).then((done) => {
          setBusy(false);
          if (done) onClose();
        });
      }}
    >
      <TextField
        label="Pattern"
        autoFocus
        value={pattern}
        onChange={(event) => setPattern(event.target.value)}
        error={!renamed.ok}
        helperText={
          renamed.ok
            ? '{name} the present name, {original} the original’s own, {n} a running number, {nn} with two digits; s/from/to/ replaces. The originals keep their names.'
            : renamed.reason
        }
        slotProps={{ htmlInput: { className: 'mono', spellCheck: false } }}
      />
      <div className="rename-preview" role="region" aria-label="Preview" tabIndex={0}>
        <table>
          <thead>
            <tr>
              <th scope="col">Now</th>
              <th scope="col">Then</th>
            </tr>
          </thead>
          <tbody>
            {shortcuts.map((s, i) => (
              <tr key={s.id} className={renamed.ok && renamed.names[i] !== s.name ? 'changed' : ''}>
                <td>{s.name}</td>
                <td>{renamed.ok ? renamed.names[i] : '…'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </FormDialog>
  );
}
