/**
 * The question as rows and groups, beside its text: each change of either is the other's. A row says how many originals
 * it matches, and how many it alone excludes.
 */
import { useState } from 'react';
import Close from '@mui/icons-material/Close';
import IconButton from '@mui/material/IconButton';
import type { AnswersView } from '@rellin/contract';
import type { Group, GroupOf, QueryRow } from '@rellin/core/query';
import { ChoiceChip } from '../parts/ChoiceChip';
import { conditionOf, FIELDS, fieldOf, FIRST, valueOf, type FieldName } from './conditions';
import { blankRow, isBlank, withMore, withoutPart, withPart, type Path } from './draft';

const number = new Intl.NumberFormat('en-GB');
const OF_WORDS: Record<GroupOf, string> = { all: 'all of these', any: 'any of these', none: 'none of these' };

type Counts = AnswersView['rows'];

const rowsIn = (part: Group | QueryRow): number =>
  part.type === 'row' ? (isBlank(part) ? 0 : 1) : part.parts.reduce((n, inner) => n + rowsIn(inner), 0);

const fieldOfRow = (row: QueryRow): FieldName => (isBlank(row) ? row.blank : fieldOf(row.condition));

/** What is written counts as soon as it means something; until then the row keeps what it was. */
function ValueField({ row, onChange }: { row: QueryRow; onChange(row: QueryRow): void }) {
  const field = fieldOfRow(row);
  const { title, example, options } = FIELDS[field];
  const value = valueOf(row.condition);
  const [typed, setText] = useState(value);
  const meant = conditionOf(field, typed);
  // changed from outside, by the text above or by undo, since it meant what the row holds
  const [held, setHeld] = useState({ value, field });
  const isChanged = held.value !== value || held.field !== field;
  const text = isChanged && !(meant && valueOf(meant) === value) ? value : typed;
  if (isChanged) {
    setHeld({ value, field });
    setText(text);
  }
  const own = text === typed ? meant : conditionOf(field, text);
  if (options)
    return (
      <span className="builder-choice">
        <ChoiceChip
          label={title}
          value={value.split(',')[0]!}
          options={options}
          onChange={(chosen) => {
            const condition = conditionOf(field, chosen);
            if (condition) onChange({ type: 'row', not: row.not, condition });
          }}
        />
      </span>
    );
  return (
    <input
      className="builder-value"
      type="text"
      aria-label={title}
      aria-invalid={own === undefined && text !== ''}
      title={own === undefined ? `For example ${example}` : undefined}
      placeholder={example}
      value={text}
      spellCheck={false}
      onChange={(event) => {
        setText(event.target.value);
        const condition = conditionOf(field, event.target.value);
        if (condition) onChange({ type: 'row', not: row.not, condition });
      }}
      // whoever adds a row writes into it
      autoFocus={isBlank(row)}
    />
  );
}

function RowLine(props: {
  row: QueryRow;
  count: { through: number; alone: number } | undefined;
  onChange(row: QueryRow): void;
  onRemove(): void;
}) {
  const { row, count } = props;
  const field = fieldOfRow(row);
  const ask = (f: FieldName): QueryRow => {
    const condition = conditionOf(f, valueOf(row.condition)) ?? FIRST[f];
    return condition ? { type: 'row', not: row.not, condition } : blankRow(f, row.not);
  };
  return (
    <li className="builder-row">
      <span className="builder-field">
        <ChoiceChip
          label="Field"
          value={field}
          options={(Object.keys(FIELDS) as FieldName[]).map((f) => ({ value: f, label: FIELDS[f].title }))}
          onChange={(f) => props.onChange(ask(f))}
        />
      </span>
      <button
        type="button"
        className={`chip builder-not${row.not ? ' on' : ''}`}
        aria-pressed={row.not}
        onClick={() => props.onChange({ ...row, not: !row.not })}
      >
        not
      </button>
      <ValueField key={field} row={row} onChange={props.onChange} />
      <span className="builder-count small">
        {count && (
          <>
            <span title="Originals that this row matches by itself">{number.format(count.through)}</span>
            {count.alone > 0 && (
              <span className="alone" title="Without this row so many more would be found">
                −{number.format(count.alone)}
              </span>
            )}
          </>
        )}
      </span>
      <IconButton
        size="small"
        aria-label={`Remove the row ${FIELDS[field].title} ${valueOf(row.condition)}`}
        onClick={props.onRemove}
      >
        <Close fontSize="inherit" />
      </IconButton>
    </li>
  );
}

function GroupBox(props: {
  group: Group;
  path: Path;
  counts: Counts;
  /** The number of its first row, depth first. */
  first: number;
  change(make: (whole: Group) => Group): void;
}) {
  const { group, path, counts, change } = props;
  const firstOf = (i: number) => group.parts.slice(0, i).reduce((n, part) => n + rowsIn(part), props.first);
  const fresh = (): QueryRow => blankRow('word');
  return (
    <div
      className={path.length > 0 ? 'builder-group inner' : 'builder-group'}
      role="group"
      aria-label={OF_WORDS[group.of]}
    >
      <div className="builder-head">
        <ChoiceChip
          label="Of these rows"
          value={group.of}
          options={(Object.keys(OF_WORDS) as GroupOf[]).map((of) => ({ value: of, label: OF_WORDS[of] }))}
          onChange={(of) => change((whole) => withPart(whole, path, { ...group, of }))}
        />
        {path.length === 0 && group.parts.length > 0 && (
          <span className="small builder-legend">matches · excluded by this alone</span>
        )}
        {path.length > 0 && (
          <IconButton
            size="small"
            aria-label="Remove the group"
            onClick={() => change((whole) => withoutPart(whole, path))}
          >
            <Close fontSize="inherit" />
          </IconButton>
        )}
      </div>
      <ul>
        {group.parts.map((part, i) => {
          const at = [...path, i];
          if (part.type === 'group')
            return (
              <li key={i}>
                <GroupBox group={part} path={at} counts={counts} first={firstOf(i)} change={change} />
              </li>
            );
          return (
            <RowLine
              key={i}
              row={part}
              count={isBlank(part) ? undefined : counts?.[firstOf(i)]}
              onChange={(row) => change((whole) => withPart(whole, at, row))}
              onRemove={() => change((whole) => withoutPart(whole, at))}
            />
          );
        })}
      </ul>
      <div className="builder-more">
        <button type="button" className="chip" onClick={() => change((whole) => withMore(whole, path, fresh()))}>
          Add a row
        </button>
        <button
          type="button"
          className="chip"
          onClick={() =>
            change((whole) =>
              withMore(whole, path, { type: 'group', of: group.of === 'any' ? 'all' : 'any', parts: [fresh()] }),
            )
          }
        >
          Add a group
        </button>
      </div>
    </div>
  );
}

export function RowsBuilder(props: { group: Group; rows: AnswersView['rows']; onChange(group: Group): void }) {
  return (
    <div className="builder sheet" data-own-stops>
      <GroupBox
        group={props.group}
        path={[]}
        counts={props.rows}
        first={0}
        change={(make) => props.onChange(make(props.group))}
      />
    </div>
  );
}
