/** Renaming many shortcuts by one pattern. */
import { useMemo } from 'react';
import type { ShortcutView } from '@rellin/contract';
import { nameOf } from '@rellin/core/paths';
import { PatternDialog } from '../parts/PatternDialog';
import { useCommands } from '../workspace/useCommands';

export function RenameManyDialog({ shortcuts, onClose }: { shortcuts: ShortcutView[]; onClose: () => void }) {
  const d = useCommands();
  const sources = useMemo(
    () => shortcuts.map((s) => ({ name: s.name, original: s.target === 'original' ? nameOf(s.location) : s.name })),
    [shortcuts],
  );
  return (
    <PatternDialog
      title={`Rename ${shortcuts.length} shortcuts`}
      sources={sources}
      now={shortcuts.map((s) => s.name)}
      help="{name} the present name, {original} the original’s own, {n} a running number, {nn} with two digits; s/from/to/ replaces. The originals keep their names."
      onNames={(names) => d.renameMany(shortcuts.map((s, i) => ({ id: s.id, name: names[i]! })))}
      onClose={onClose}
    />
  );
}
