/** Giving many things names by one pattern, with every name shown before it is done. */
import { useMemo, useState, type ReactNode } from 'react';
import TextField from '@mui/material/TextField';
import { renamedBy, type RenameSource } from '@rellin/core/collections';
import { shown } from '@rellin/core/paths';
import { FormDialog } from './FormDialog';
import './PatternDialog.css';

export interface PatternDialogProps {
  title: string;
  /** What the pattern is filled from; in the order of `now`. */
  sources: readonly RenameSource[];
  /** The whole names as they are. */
  now: readonly string[];
  /** The whole name from what the pattern gives. */
  whole?(name: string, index: number): string;
  help: string;
  children?: ReactNode;
  /** Whether it was done; the dialog closes then. */
  onNames(names: string[]): Promise<boolean | undefined>;
  onClose(): void;
}

export function PatternDialog({ title, sources, now, whole, help, children, onNames, onClose }: PatternDialogProps) {
  const [pattern, setPattern] = useState('{name}');
  const [busy, setBusy] = useState(false);
  const renamed = useMemo(() => {
    const out = renamedBy(pattern, sources);
    return out.ok && whole ? { ...out, names: out.names.map(whole) } : out;
  }, [pattern, sources, whole]);
  const changed = renamed.ok ? renamed.names.filter((name, i) => name !== now[i]).length : 0;
  return (
    <FormDialog
      wide
      title={title}
      submit={`Rename ${changed}`}
      busy={busy || changed === 0}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        if (!renamed.ok) return;
        setBusy(true);
        void onNames(renamed.names).then((done) => {
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
        helperText={renamed.ok ? help : renamed.reason}
        slotProps={{ htmlInput: { className: 'mono', spellCheck: false } }}
      />
      {children}
      <div className="rename-preview" role="region" aria-label="Preview" tabIndex={0}>
        <table>
          <thead>
            <tr>
              <th scope="col">Now</th>
              <th scope="col">Then</th>
            </tr>
          </thead>
          <tbody>
            {now.map((name, i) => (
              <tr key={i} className={renamed.ok && renamed.names[i] !== name ? 'changed' : ''}>
                <td>{shown(name)}</td>
                <td>{renamed.ok ? shown(renamed.names[i]!) : '…'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </FormDialog>
  );
}
