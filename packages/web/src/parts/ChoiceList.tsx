/** A field that narrows a list below it: arrows move, Enter chooses. ARIA combobox with a listbox always shown. */
import { useStateFor } from './useStateFor';
import { useEffect, useId, useRef, type KeyboardEvent, type ReactNode } from 'react';
import './ChoiceList.css';

export interface Choice {
  id: string;
  content: ReactNode;
  disabled?: boolean;
  /** Shown as ticked. */
  checked?: boolean;
  run(): void;
}

export interface ChoiceListProps {
  label: string;
  placeholder?: string;
  query: string;
  onQuery(query: string): void;
  choices: readonly Choice[];
  empty: string;
  /** Columns of a grid; 1 for a list. */
  columns?: number;
  /** Keys beyond the list's own; true where it was used. */
  onKey?(event: KeyboardEvent, active: Choice | undefined): boolean;
  /** What stands beside the field. */
  beside?: ReactNode;
}

export function ChoiceList(props: ChoiceListProps) {
  const { choices, columns = 1, query } = props;
  const id = useId();
  const list = useRef<HTMLUListElement>(null);
  // the first that can be chosen, until the person goes to another
  const [active, setActive] = useStateFor<number | undefined>(query, undefined);
  const first = Math.max(
    0,
    choices.findIndex((choice) => !choice.disabled),
  );
  const at = Math.min(active ?? first, Math.max(0, choices.length - 1));
  useEffect(() => {
    list.current?.children[at]?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  const choose = (choice: Choice | undefined) => {
    if (choice && !choice.disabled) choice.run();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const steps: Record<string, number> = { ArrowDown: columns, ArrowUp: -columns };
    if (columns > 1 && query === '') Object.assign(steps, { ArrowRight: 1, ArrowLeft: -1 });
    const step = steps[event.key];
    if (props.onKey?.(event, choices[at])) {
      // used
    } else if (step !== undefined) setActive(Math.max(0, Math.min(choices.length - 1, at + step)));
    else if (event.key === 'Enter') choose(choices[at]);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="choice-list">
      <div className="choice-head">
        <input
          type="text"
          role="combobox"
          autoFocus
          aria-label={props.label}
          aria-expanded
          aria-controls={`${id}-list`}
          aria-autocomplete="list"
          aria-activedescendant={choices.length > 0 ? `${id}-${at}` : undefined}
          placeholder={props.placeholder}
          value={query}
          autoComplete="off"
          spellCheck={false}
          onChange={(event) => props.onQuery(event.target.value)}
          onKeyDown={onKeyDown}
        />
        {props.beside}
      </div>
      {choices.length === 0 && <p className="small choice-empty">{props.empty}</p>}
      <ul
        ref={list}
        id={`${id}-list`}
        role="listbox"
        aria-label={props.label}
        className={columns > 1 ? 'grid-choices' : ''}
        style={columns > 1 ? { gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` } : undefined}
      >
        {choices.map((choice, i) => (
          <li
            key={choice.id}
            id={`${id}-${i}`}
            role="option"
            aria-selected={i === at}
            aria-disabled={choice.disabled || undefined}
            aria-checked={choice.checked}
            onPointerMove={() => setActive(i)}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => choose(choice)}
          >
            {choice.content}
          </li>
        ))}
      </ul>
    </div>
  );
}
