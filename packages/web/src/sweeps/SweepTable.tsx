/** The things by destination. A key or a drop sends the chosen ones elsewhere. */
import { useMemo, useState, type ReactNode } from 'react';
import {
  DndContext,
  DragOverlay,
  pointerWithin,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import ExpandMore from '@mui/icons-material/ExpandMore';
import { kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import type { SweepFolder, SweepRule, SweepThing, SweepTo } from '@rellin/contract';
import { fullDate, shortDate } from '../parts/dates';
import { Grid, type Column } from '../parts/Grid';
import { KeyCap } from '../parts/KeyCap';
import { KindIcon } from '../parts/KindIcon';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';
import { destinationsOf } from './Destinations';
import { isFixed, keyOf, type Section } from './draft';
import { folderWords, things, whyWords } from './words';

/** A destination as a line of its own, or a thing below it. */
type Line = { section: Section; thing?: undefined } | { section: Section; thing: SweepThing };

const lineKey = ({ section, thing }: Line) => (thing ? keyOf(thing) : `to ${section.to}`);

export interface SweepTableProps {
  sections: readonly Section[];
  folders: readonly SweepFolder[];
  rules: readonly SweepRule[];
  onSend(keys: readonly string[], to: SweepTo): void;
  /** Each to where it most likely belongs. */
  onSuggested(keys: readonly string[]): void;
  /** To a folder that is to be chosen. */
  onElsewhere(keys: readonly string[]): void;
  /** The bar of destinations; it takes drops as well. */
  destinations: ReactNode;
}

export function SweepTable({
  sections,
  folders,
  rules,
  onSend,
  onSuggested,
  onElsewhere,
  destinations,
}: SweepTableProps) {
  const [selected, setSelected] = useState<string>();
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [folded, setFolded] = useState<ReadonlySet<SweepTo>>(new Set<SweepTo>(['stay']));
  const [dragged, setDragged] = useState<readonly string[]>([]);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const d = useCommands();
  const { openDialog } = useWorkspaceActions();
  const lines = useMemo(
    () =>
      sections.flatMap((section): Line[] => [
        { section },
        ...(folded.has(section.to) ? [] : section.things.map((thing): Line => ({ section, thing }))),
      ]),
    [sections, folded],
  );
  const keys = useMemo(() => new Set(chosen), [chosen]);
  const fold = (to: SweepTo) =>
    setFolded((now) => {
      const next = new Set(now);
      if (!next.delete(to)) next.add(to);
      return next;
    });
  /** What an act on a line means: the chosen things, the thing itself, or all of a destination. */
  const meant = (line: Line): string[] => {
    if (keys.has(lineKey(line))) {
      const some = lines.flatMap((l) => (l.thing && keys.has(lineKey(l)) ? lineKey(l) : []));
      if (some.length > 0 && line.thing) return some;
    }
    return line.thing ? [keyOf(line.thing)] : line.section.things.map(keyOf);
  };
  const byKey = new Map(destinationsOf(sections, folders).flatMap((x) => (x.key ? [[x.key, x.to] as const] : [])));
  const columns: Column<Line>[] = [
    {
      id: 'name',
      title: 'Name',
      width: 'minmax(220px, 1.5fr)',
      cell: (line) =>
        line.thing ? (
          <Held line={line}>
            <KindIcon kind={line.thing.kind} />
            <span className="cut">{shown(line.thing.name)}</span>
          </Held>
        ) : (
          <Heading section={line.section} folders={folders} isFolded={folded.has(line.section.to)} onFold={fold} />
        ),
    },
    {
      id: 'why',
      title: 'Why',
      width: 'minmax(200px, 1.4fr)',
      cell: ({ section, thing }) =>
        thing ? (
          <span className="small cut" title={whyWords(thing, rules, folders, section.to)}>
            {whyWords(thing, rules, folders, section.to)}
          </span>
        ) : (
          section.clashes > 0 && (
            <span className="small sweep-clash">
              {section.clashes === 1 ? 'one name is taken there' : `${section.clashes} names are taken there`}
            </span>
          )
        ),
    },
    {
      id: 'kind',
      title: 'Kind',
      width: '84px',
      cell: ({ thing }) => thing && <span className="small">{kindWord(thing.kind)}</span>,
    },
    {
      id: 'changed',
      title: 'Changed',
      width: '96px',
      align: 'right',
      cell: ({ thing }) =>
        thing && (
          <span className="small" title={fullDate(thing.modified)}>
            {shortDate(thing.modified)}
          </span>
        ),
    },
    {
      id: 'size',
      title: 'Size',
      width: '76px',
      align: 'right',
      cell: ({ section, thing }) => (
        <span className="small">
          {thing ? thing.type === 'file' && formatBytes(thing.size) : <b>{formatBytes(section.size)}</b>}
        </span>
      ),
    },
  ];
  const preview = ({ placeId, id, name }: SweepThing) =>
    openDialog({ kind: 'preview', placeId, originalId: id, name: shown(name) });
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={({ active }) => setDragged(meant((active.data.current as { line: Line }).line))}
      onDragCancel={() => setDragged([])}
      onDragEnd={({ over }) => {
        const to = (over?.data.current as { to: SweepTo } | undefined)?.to;
        if (to !== undefined && to !== 'stay') onSend(dragged, to);
        setDragged([]);
      }}
    >
      {destinations}
      <Grid
        label="Things by where they go"
        columns={columns}
        rowHeight={34}
        takeFocus
        count={lines.length}
        item={(i) => lines[i]}
        keyOf={lineKey}
        nameOf={({ section, thing }) => shown(thing?.name ?? titleOf(section.to, folders))}
        hintOf={({ thing }) => (thing?.origin ? `from ${thing.origin}` : '')}
        selectedKey={selected}
        chosen={keys}
        onChoose={setChosen}
        onSelect={(line) => setSelected(lineKey(line))}
        onOpen={(line) =>
          line.thing
            ? void d.open({ placeId: line.thing.placeId, originalId: line.thing.id, route: 'sweep' })
            : fold(line.section.to)
        }
        onKey={(event, line) => {
          const key = event.key.length === 1 ? event.key.toUpperCase() : event.key;
          const to = key === 'Delete' ? 'bin' : byKey.get(key);
          if (to !== undefined) onSend(meant(line), to);
          else if (key === 'O') onElsewhere(meant(line));
          else if (key === 'W') onSuggested(meant(line));
          else if (key === 'V' && line.thing) preview(line.thing);
          else return false;
          return true;
        }}
      />
      <p className="small sweep-keys">
        <KeyCap>1</KeyCap>–<KeyCap>9</KeyCap> sends to a folder above · <KeyCap>B</KeyCap> to the bin ·{' '}
        <KeyCap>L</KeyCap> leaves it there · <KeyCap>W</KeyCap> where it perhaps belongs · <KeyCap>O</KeyCap> another
        folder… · <KeyCap>V</KeyCap> preview · or drag it
      </p>
      <DragOverlay dropAnimation={null} style={{ width: 'auto' }}>
        {dragged.length > 0 && (
          <div className="drag-label" role="status">
            <b>{things(dragged.length)}</b>
            <span>Nothing is moved before you sweep</span>
          </div>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** The name of a thing: dragging it sends it elsewhere, and what is dropped on it goes where it goes. */
function Held({ line, children }: { line: Line & { thing: SweepThing }; children: ReactNode }) {
  const id = lineKey(line);
  const drag = useDraggable({ id, data: { line }, disabled: isFixed(line.thing) });
  const drop = useDroppable({ id: `on ${id}`, data: { to: line.section.to } });
  return (
    <span
      ref={(node) => {
        drag.setNodeRef(node);
        drop.setNodeRef(node);
      }}
      {...drag.listeners}
      className={`drag-handle sweep-thing${isFixed(line.thing) ? ' fixed' : ''}`}
    >
      {children}
    </span>
  );
}

const HEADINGS: Partial<Record<SweepTo, string>> = { bin: 'Into the bin', leave: 'Left there', stay: 'Stays' };

const titleOf = (to: SweepTo, folders: readonly SweepFolder[]): string =>
  typeof to === 'number' ? folderWords(folders[to]!) : HEADINGS[to]!;

function Heading(props: {
  section: Section;
  folders: readonly SweepFolder[];
  isFolded: boolean;
  onFold(to: SweepTo): void;
}) {
  const { section, folders, isFolded, onFold } = props;
  const { to } = section;
  const { setNodeRef, isOver } = useDroppable({ id: `heading ${to}`, data: { to } });
  const folder = typeof to === 'number' ? folders[to]! : undefined;
  return (
    <span ref={setNodeRef} className={`sweep-heading${isOver ? ' over' : ''}`}>
      <button
        type="button"
        tabIndex={-1}
        aria-expanded={!isFolded}
        aria-label={isFolded ? 'Unfold' : 'Fold'}
        onClick={(event) => {
          event.stopPropagation();
          onFold(to);
        }}
      >
        <ExpandMore aria-hidden className={isFolded ? 'chevron folded' : 'chevron'} />
      </button>
      <strong className="cut">{titleOf(to, folders)}</strong>
      <span className="small cut">
        {section.things.length}
        {folder && folder.trail.length > 0 && ` · ${folder.trail.join(' › ')}`}
      </span>
    </span>
  );
}
