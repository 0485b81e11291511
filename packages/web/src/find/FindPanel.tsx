/** What stands below the find line: conditions taken or offered, answers in groups, or the acts on one of them. */
import type { Chip } from '@rellin/core/chips';
import type { Act } from '../acts/acts';
import { KeyCap } from '../parts/KeyCap';
import type { FindOption } from './useFindOptions';

/** A condition taken from words typed, with the chip's label. */
export interface TakenChip {
  label: string;
  where: string;
}

/** How the answers stand: on their way, with none, or why they could not be had. */
export type FindStand = { kind: 'there' | 'looking' | 'none' } | { kind: 'failed'; message: string };

interface ChipsProps {
  taken: readonly TakenChip[];
  offered: readonly Chip[];
  onTake(chip: Chip): void;
  onDrop(chip: TakenChip): void;
}

/** A press on them leaves the caret in the field. */
const keepsFocus = { tabIndex: -1, onMouseDown: (event: { preventDefault(): void }) => event.preventDefault() };

function FindChips({ taken, offered, onTake, onDrop }: ChipsProps) {
  if (taken.length === 0 && offered.length === 0) return null;
  return (
    <div className="find-chips" role="group" aria-label="Narrow by">
      {taken.map((t) => (
        <button
          key={t.where}
          type="button"
          className="chip on"
          aria-label={`No longer ${t.label}`}
          {...keepsFocus}
          onClick={() => onDrop(t)}
        >
          {t.label} ×
        </button>
      ))}
      {offered.map((chip, i) => (
        <button key={chip.where} type="button" className="chip" {...keepsFocus} onClick={() => onTake(chip)}>
          Only {chip.label} {i === 0 && <KeyCap>Tab</KeyCap>}
        </button>
      ))}
    </div>
  );
}

interface ListProps {
  /** The number of the line that Enter takes. */
  active: number;
  onActive(index: number): void;
  onChoose(index: number): void;
}

/** What each line of either list is to the combobox. */
const lineProps = (i: number, { active, onActive, onChoose }: ListProps) => ({
  id: `find-${i}`,
  role: 'option',
  'aria-selected': i === active,
  onPointerMove: () => onActive(i),
  onMouseDown: (event: { preventDefault(): void }) => event.preventDefault(),
  onClick: () => onChoose(i),
});

function ActList({ name, acts, ...list }: ListProps & { name: string; acts: readonly Act[] }) {
  return (
    <ul id="find-list" role="listbox" aria-label={`Acts on ${name}`}>
      <li role="presentation" className="find-group">
        {name}
      </li>
      {acts.map((act, i) => (
        <li key={act.id} className={act.grave ? 'grave' : ''} {...lineProps(i, list)}>
          {act.label}
        </li>
      ))}
    </ul>
  );
}

function AnswerList({ options, ...list }: ListProps & { options: readonly FindOption[] }) {
  return (
    <ul id="find-list" role="listbox" aria-label="Answers">
      {options.flatMap((option, i) => [
        ...(option.group === options[i - 1]?.group
          ? []
          : [
              <li key={`group-${option.group}`} role="presentation" className="find-group">
                {option.group}
              </li>,
            ]),
        <li key={option.id} {...lineProps(i, list)}>
          {option.content}
        </li>,
      ])}
    </ul>
  );
}

function Stand({ stand }: { stand: FindStand }) {
  switch (stand.kind) {
    case 'there':
      return null;
    case 'looking':
      return (
        <p className="find-none" role="status">
          Looking…
        </p>
      );
    case 'failed':
      return (
        <p className="find-none" role="alert">
          {stand.message}
        </p>
      );
    case 'none':
      return <p className="find-none">Nothing is called that, here or away. Try fewer letters, or paste a path.</p>;
  }
}

interface PanelProps extends ChipsProps, ListProps {
  options: readonly FindOption[];
  /** Listed in place of the answers. */
  actsOf: { name: string; acts: readonly Act[] } | undefined;
  stand: FindStand;
}

export function FindPanel({ options, actsOf, stand, taken, offered, onTake, onDrop, ...list }: PanelProps) {
  return (
    <div className="find-panel">
      {!actsOf && <FindChips taken={taken} offered={offered} onTake={onTake} onDrop={onDrop} />}
      {actsOf ? <ActList {...actsOf} {...list} /> : <AnswerList options={options} {...list} />}
      {!actsOf && <Stand stand={stand} />}
      <p className="find-foot small">
        <KeyCap>↵</KeyCap> {actsOf ? 'do it' : 'open'} <KeyCap>Shift ↵</KeyCap> acts{' '}
        {!actsOf && options[list.active]?.add && (
          <>
            <KeyCap>Ctrl ↵</KeyCap> add shortcut{' '}
          </>
        )}
        <KeyCap>Esc</KeyCap> back
      </p>
    </div>
  );
}
