/**
 * The question as rows and groups, beside its text: each change of either is the other's. A row says how many originals
 * it lets through, and how many it alone shuts out.
 */
import { useEffect, useState } from 'react';
import Close from '@mui/icons-material/Close';
import IconButton from '@mui/material/IconButton';
import type { AnswersView } from '@rellin/contract';
import type { Group, GroupOf, Row } from '@rellin/core/query';
import { conditionOf, FIELDS, fieldOf, FIRST, valueOf, type FieldName } from './conditions';
import { withMore, withoutPart, withPart, type Path } from './draft';

const number = new Intl.NumberFormat('en-GB');
const OF_WORDS: Record<GroupOf, string> = { all: 'all of these', any: 'any of these', none: 'none of these' };

type Counts = AnswersView['rows'];

const rowsIn = (part: Group | Row): number =>
  part.type === 'row' ? 1 : part.parts.reduce((n, inner) => n + rowsIn(inner), 0);

function Select<T extends string>(props: {
  label: string;
  /** As wide as a field that is typed into. */
  wide?: boolean;
  value: T;
  options: readonly { value: T; label: string }[];
  onChange(value: T): void;
}) {
  return (
    <select
      className={props.wide ? 'builder-select wide' : 'builder-select'}
      aria-label={props.label}
      value={props.value}
      onChange={(event) => props.onChange(event.target.value as T)}
    >
      {props.options.map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </select>
  );
}

/** What is written counts as soon as it means something; until then the row keeps what it was. */
function ValueField({ row, onChange }: { row: Row; onChange(row: Row): void }) {
  const field = fieldOf(row.condition);
  const { title, example, options } = FIELDS[field];
  const value = valueOf(row.condition);
  const [text, setText] = useState(value);
  const own = conditionOf(field, text);
  // changed from outside: by the text above, or by undo
  useEffect(() => {
    setText((now) => {
      const meant = conditionOf(field, now);
      return meant && valueOf(meant) === value ? now : value;
    });
  }, [value, field]);
  if (options)
    return (
      <Select
        wide
        label={title}
        value={value.split(',')[0]!}
        options={options}
        onChange={(chosen) => {
          const condition = conditionOf(field, chosen);
          if (condition) onChange({ ...row, condition });
        }}
      />
    );
  return (
    <input
      className="builder-value"
      type="text"
      aria-label={title}
      aria-invalid={own === undefined}
      title={own === undefined ? `For example ${example}` : undefined}
      placeholder={example}
      value={text}
      spellCheck={false}
      onChange={(event) => {
        setText(event.target.value);
        const condition = conditionOf(field, event.target.value);
        if (condition) onChange({ ...row, condition });
      }}
    />
  );
}

function RowLine(props: {
  row: Row;
  count: { through: number; alone: number } | undefined;
  onChange(row: Row): void;
  onRemove(): void;
}) {
  const { row, count } = props;
  const field = fieldOf(row.condition);
  return (
    <li className="builder-row">
      <Select
        label="Field"
        value={field}
        options={(Object.keys(FIELDS) as FieldName[]).map((f) => ({ value: f, label: FIELDS[f].title }))}
        onChange={(f) => props.onChange({ ...row, condition: conditionOf(f, valueOf(row.condition)) ?? FIRST[f] })}
      />
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
            <span title="Originals that this row lets through by itself">{number.format(count.through)}</span>
            {count.alone > 0 && (
              <span className="alone" title="Without this row the answer had so many more">
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
  const fresh = (): Row => ({ type: 'row', not: false, condition: FIRST.word });
  return (
    <div
      className={path.length > 0 ? 'builder-group inner' : 'builder-group'}
      role="group"
      aria-label={OF_WORDS[group.of]}
    >
      <div className="builder-head">
        <Select
          label="Of these rows"
          value={group.of}
          options={(Object.keys(OF_WORDS) as GroupOf[]).map((of) => ({ value: of, label: OF_WORDS[of] }))}
          onChange={(of) => change((whole) => withPart(whole, path, { ...group, of }))}
        />
        {path.length === 0 && group.parts.length > 0 && (
          <span className="small builder-legend">lets through · alone shuts out</span>
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
              count={counts?.[firstOf(i)]}
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
    <div className="builder sheet">
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
