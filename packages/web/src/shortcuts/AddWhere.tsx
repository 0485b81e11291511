/** Where new shortcuts go: into which collections, with which tags, onto which slot of the strip. */
import Autocomplete from '@mui/material/Autocomplete';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useCollections, usePins, useSettings, useTags } from '../api/queries';
import type { Where } from './rememberedWhere';

export interface AddWhereProps {
  where: Where;
  onWhere(where: Where): void;
  /** From 1; the strip's end by default. */
  slot: number | undefined;
  onSlot(slot: number | undefined): void;
  isMany: boolean;
}

export function AddWhere({ where, onWhere, slot, onSlot, isMany }: AddWhereProps) {
  const collections = (useCollections().data ?? []).filter((c) => c.type !== 'mirror');
  const tags = useTags().data ?? [];
  const pins = usePins().data ?? [];
  const room = (useSettings().data?.pinLimit ?? Infinity) - pins.length;
  return (
    <>
      <div className="add-where">
        <SeveralField
          label="Into collections"
          options={collections}
          ids={where.collections}
          onIds={(ids) => onWhere({ ...where, collections: ids })}
        />
        <SeveralField
          label="With tags"
          options={tags}
          ids={where.tags}
          onIds={(ids) => onWhere({ ...where, tags: ids })}
        />
      </div>
      <div className="add-pin">
        <FormControlLabel
          control={<Checkbox checked={where.pin} onChange={(e) => onWhere({ ...where, pin: e.target.checked })} />}
          label={isMany ? 'Pin them to the strip, as far as there is room' : 'Pin it to the strip'}
        />
        {where.pin && room > 0 && pins.length > 0 && (
          <TextField
            select
            size="small"
            label="Where on the strip"
            value={slot !== undefined && slot <= pins.length ? slot : ''}
            onChange={(e) => onSlot(e.target.value === '' ? undefined : Number(e.target.value))}
            slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
          >
            <MenuItem value="">At the end ({pins.length + 1})</MenuItem>
            {pins.map((pin) => (
              <MenuItem key={pin.id} value={pin.slot}>
                {pin.slot}, before “{pin.name}”
              </MenuItem>
            ))}
          </TextField>
        )}
        {where.pin && room <= 0 && <span className="small">The strip is full.</span>}
      </div>
    </>
  );
}

function SeveralField(props: {
  label: string;
  options: { id: string; name: string }[];
  ids: readonly string[];
  onIds(ids: string[]): void;
}) {
  return (
    <Autocomplete
      multiple
      size="small"
      options={props.options}
      getOptionLabel={(option) => option.name}
      getOptionKey={(option) => option.id}
      value={props.options.filter((option) => props.ids.includes(option.id))}
      onChange={(_, chosen) => props.onIds(chosen.map((option) => option.id))}
      renderInput={(params) => <TextField {...params} label={props.label} />}
    />
  );
}
