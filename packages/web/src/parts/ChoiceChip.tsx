import { ChipMenu, type ChipOption } from './ChipMenu';

/** One of several that always is one: a chip that says which, and opens the others. */
export function ChoiceChip<T extends string>(props: {
  /** What is chosen, for who does not see the chip. */
  label: string;
  value: T;
  options: readonly ChipOption<T>[];
  onChange(value: T): void;
}) {
  const chosen = props.options.find((o) => o.value === props.value)?.label ?? props.value;
  return (
    <ChipMenu
      label={chosen}
      ariaLabel={`${props.label}: ${chosen}`}
      options={props.options}
      chosen={[props.value]}
      onChoose={props.onChange}
    />
  );
}
