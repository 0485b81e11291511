import { useEffect, useState } from 'react';
import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { get } from '../api/client';

/** A path field that continues what is typed: from what lies in places, or with folders wherever they lie. */
export function PathField(props: {
  value: string;
  onChange(value: string): void;
  label: string;
  error?: string;
  /** What may be typed, where it is less than anything a shortcut may point to. */
  help?: string;
  autoFocus?: boolean;
  /** Folders only, outside of places as well. */
  anyFolder?: boolean;
}) {
  const [found, setFound] = useState<string[]>([]);
  const { anyFolder = false } = props;
  const isPath = anyFolder ? props.value !== '' : /^[/~]/.test(props.value);
  useEffect(() => {
    if (!isPath) return;
    const abort = new AbortController();
    const path = anyFolder ? '/places/complete' : '/originals/complete';
    get(path, { path: props.value }, abort.signal).then(setFound, () => undefined);
    return () => abort.abort();
  }, [props.value, isPath, anyFolder]);
  return (
    <Autocomplete
      freeSolo
      fullWidth
      options={isPath ? found : []}
      filterOptions={(x) => x}
      inputValue={props.value}
      onInputChange={(_, value) => props.onChange(value)}
      renderInput={(params) => (
        <TextField
          {...params}
          label={props.label}
          autoFocus={props.autoFocus}
          // what is pasted stands in the place of what was there, whichever way the focus came
          onFocus={(event) => event.target.select()}
          error={props.error !== undefined}
          helperText={props.error ?? props.help ?? 'A path (/… or ~/…), a web address, or a program by its name'}
        />
      )}
    />
  );
}
