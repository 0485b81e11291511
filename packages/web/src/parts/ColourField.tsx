import { PALETTE } from '@rellin/core/palette';
import { ColourBar } from './TagLabel';
import './ColourField.css';

/** One of the palette, each with its name; `none` allows no colour at all. */
export function ColourField(props: { value: string; none?: boolean; onChange(colour: string): void }) {
  const options: string[] = [...(props.none ? [''] : []), ...PALETTE];
  return (
    <fieldset className="colour-field">
      <legend className="small">Colour</legend>
      {options.map((colour) => (
        <label key={colour} className={colour === props.value ? 'on' : ''}>
          <input
            type="radio"
            name="colour"
            value={colour}
            checked={colour === props.value}
            onChange={() => props.onChange(colour)}
          />
          {colour !== '' && <ColourBar colour={colour} />} {colour || 'none'}
        </label>
      ))}
    </fieldset>
  );
}
