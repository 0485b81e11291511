/** Which program opens it: this once, always for these shortcuts, for their kind in Rellin, or for the whole system. */
import type { RequestOf } from '../workspace/dialogRequest';
import { useState } from 'react';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { SuitedProgram } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { useOriginal, useSettings, useSuited } from '../api/queries';
import { useCommands } from '../workspace/useCommands';

import { ChoiceList, type Choice } from '../parts/ChoiceList';
import { Picture } from '../parts/Picture';
import { asPictured } from '../parts/pictured';

type Request = RequestOf<'open-with'>;
type For = 'once' | 'shortcut' | 'kind' | 'system';

export function OpenWithDialog({ request, onClose }: { request: Request; onClose: () => void }) {
  const d = useCommands();
  const shortcuts = 'shortcuts' in request ? request.shortcuts : [];
  const first = 'original' in request ? request.original : shortcuts[0]!;
  const originalId = 'original' in request ? request.original.id : (shortcuts[0]!.originalId ?? undefined);
  const original = useOriginal(first.placeId ?? undefined, originalId).data;
  const suited = useSuited(original?.mime).data ?? [];
  const settings = useSettings().data;
  const [query, setQuery] = useState('');
  const many = shortcuts.length > 1;
  const [purpose, setPurpose] = useState<For>(many ? 'shortcut' : 'once');
  const kind = first.kind;
  const word = kindWord(kind);
  const what = many ? `${shortcuts.length} shortcuts` : `“${first.name}”`;
  const purposes: [For, string][] = [
    ...(many ? [] : [['once', 'this once'] as [For, string]]),
    ...(shortcuts.length > 0 ? [['shortcut', `always, for ${what}`] as [For, string]] : []),
    ...(many
      ? []
      : [
          ['kind', `always, for every ${word}`] as [For, string],
          ['system', `always, for every ${word}, in the whole system (mimeapps.list)`] as [For, string],
        ]),
  ];
  const now =
    purpose === 'shortcut'
      ? shortcuts.every((s) => s.openWith === shortcuts[0]!.openWith)
        ? shortcuts[0]!.openWith
        : undefined
      : purpose === 'kind'
        ? (settings?.openWith[kind] ?? null)
        : undefined;
  const take = async (program: SuitedProgram | null): Promise<void> => {
    const done =
      purpose === 'shortcut'
        ? await d.setOpenWith(shortcuts, program)
        : purpose === 'kind'
          ? await d.setProgramFor(kind, program)
          : purpose === 'system'
            ? await d.tellSystem(kind, program!, original?.mime)
            : await d.open({
                ...(shortcuts[0] ? { shortcutId: shortcuts[0].id } : { placeId: first.placeId!, originalId }),
                withProgramId: program!.id,
                route: 'open-with',
              });
    if (done && purpose !== 'once') onClose();
  };
  const needle = query.trim().toLowerCase();
  const choices: Choice[] = suited
    .filter((p) => `${p.name} ${p.comment}`.toLowerCase().includes(needle))
    .map((p) => ({
      id: p.id,
      checked: p.id === now,
      content: (
        <>
          <Picture of={asPictured(p.id)} size={22} />
          <span className="name cut">{p.name}</span>
          <span className="small cut">
            {[p.comment, p.isDefault ? 'the system’s choice' : p.suits ? '' : 'may not open this type']
              .filter(Boolean)
              .join(' · ')}
          </span>
        </>
      ),
      run: () => void take(p),
    }));
  if ((purpose === 'shortcut' || purpose === 'kind') && now !== null && needle === '')
    choices.unshift({
      id: 'usual',
      content: <span className="name">As usual: {purpose === 'kind' ? 'the system chooses' : `as every ${word}`}</span>,
      run: () => void take(null),
    });
  return (
    <Dialog open onClose={onClose} aria-labelledby="open-with-title" maxWidth="sm" fullWidth>
      <DialogTitle id="open-with-title">Open {what} with</DialogTitle>
      <DialogContent>
        <TextField
          select
          label="For"
          fullWidth
          value={purpose}
          onChange={(event) => setPurpose(event.target.value as For)}
          sx={{ mt: 1, mb: 1 }}
        >
          {purposes.map(([id, text]) => (
            <MenuItem key={id} value={id}>
              {text}
            </MenuItem>
          ))}
        </TextField>
        <ChoiceList
          label="Program"
          placeholder="Type to narrow the programs"
          query={query}
          onQuery={setQuery}
          choices={choices}
          empty="No installed program can be given files."
        />
      </DialogContent>
    </Dialog>
  );
}
