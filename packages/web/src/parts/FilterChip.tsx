import { ChipMenu, type ChipOption } from './ChipMenu';

const ANY = '';

/** One facet: a chip that opens its values, and says which is chosen, or that any is let through. */
export function FilterChip<T extends string>(props: {
  title: string;
  value: T | undefined;
  options: readonly ChipOption<T>[];
  onChange(value: T | undefined): void;
}) {
  const chosen = props.options.find((o) => o.value === props.value);
  return (
    <ChipMenu<string>
      label={chosen ? `${props.title}: ${chosen.label}` : props.title}
      on={chosen !== undefined}
      options={[{ value: ANY, label: 'any' }, ...props.options]}
      chosen={props.value === undefined ? [] : [props.value]}
      onChoose={(value) => props.onChange(value === ANY ? undefined : (value as T))}
    />
  );
}
