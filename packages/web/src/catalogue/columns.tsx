/** The columns that the catalogue's table can have, and which are shown until the person chooses. */
import type { CollectionView, SettingsView, ShortcutView, TagView } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { shownKeys } from '@rellin/core/keys';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { ago, shortDate } from '../parts/dates';
import { TagLabels } from '../parts/TagLabel';
import { DragHandle } from '../parts/DragRow';
import type { Column } from '../parts/Grid';
import { KeyCap } from '../parts/KeyCap';
import { ChosenPicture } from '../parts/Picture';
import { ReachRuler } from '../parts/ReachRuler';
import { STATE_WORDS, Tether } from '../parts/Tether';
import { locationText } from '../parts/locationText';

export interface Named {
  tags: ReadonlyMap<string, TagView>;
  collections: ReadonlyMap<string, CollectionView>;
}

const small = (text: string) => (
  <span className="small cut" title={text}>
    {text}
  </span>
);

/** Every column there is, in the order they stand in. */
export function allColumns({ tags, collections }: Named): Column<ShortcutView>[] {
  return [
    {
      id: 'name',
      title: 'Name',
      width: 'minmax(150px, 1.5fr)',
      least: 150,
      sortable: true,
      cell: (s) => (
        <DragHandle id={`row-${s.id}`} item={{ type: 'shortcut', shortcut: s }}>
          <Tether state={s.state} />
          <ChosenPicture of={s} />
          <span className="name cut" title={s.name}>
            {s.name}
          </span>
          {s.pinSlot !== null && <KeyCap>{s.pinSlot}</KeyCap>}
        </DragHandle>
      ),
    },
    { id: 'kind', title: 'Kind', width: '84px', sortable: true, cell: (s) => small(kindWord(s.kind)) },
    {
      id: 'place',
      title: 'Folder of the original',
      width: 'minmax(100px, 1.3fr)',
      least: 100,
      cell: (s) => small(locationText(s)),
    },
    {
      id: 'path',
      title: 'Path or address',
      width: 'minmax(160px, 1.5fr)',
      least: 120,
      cell: (s) => (
        <span className="small mono cut" title={shown(s.location)}>
          {shown(s.location)}
        </span>
      ),
    },
    { id: 'state', title: 'State', width: '90px', sortable: true, cell: (s) => small(STATE_WORDS[s.state]) },
    {
      id: 'size',
      title: 'Size',
      width: '72px',
      align: 'right',
      sortable: true,
      cell: (s) => small(s.size === null ? '' : formatBytes(s.size)),
    },
    {
      id: 'modified',
      title: 'Changed',
      width: '96px',
      sortable: true,
      cell: (s) => small(s.modified === null ? '' : shortDate(s.modified)),
    },
    { id: 'added', title: 'Added', width: '96px', sortable: true, cell: (s) => small(shortDate(s.addedAt)) },
    {
      id: 'opened',
      title: 'Opened',
      width: '96px',
      sortable: true,
      cell: (s) => small(s.lastOpenedAt === null ? 'never' : ago(s.lastOpenedAt)),
    },
    {
      id: 'tags',
      title: 'Tags',
      width: 'minmax(90px, 0.8fr)',
      cell: (s) => {
        const own = s.tags.flatMap((id) => tags.get(id) ?? []);
        return (
          <span className="cut">
            <TagLabels tags={own} />
          </span>
        );
      },
    },
    {
      id: 'collections',
      title: 'In collections',
      width: 'minmax(100px, 1fr)',
      cell: (s) => small(s.collections.flatMap((id) => collections.get(id)?.name ?? []).join(', ')),
    },
    {
      id: 'key',
      title: 'Own key',
      width: '90px',
      cell: (s) => (s.keys ? <KeyCap>{shownKeys(s.keys)}</KeyCap> : null),
    },
    {
      id: 'week',
      title: 'a week',
      width: '58px',
      align: 'right',
      sortable: true,
      cell: (s) => <span className="small">{s.perWeek.toFixed(1)}</span>,
    },
    {
      id: 'reach',
      title: 'Reach · by folders',
      width: '150px',
      least: 120,
      sortable: true,
      cell: (s) => <ReachRuler reach={s.reach} width={142} />,
    },
  ];
}

export const USUAL = ['name', 'kind', 'place', 'week', 'reach'];

type Choice = SettingsView['catalogueColumns'];

/** The columns that are shown: the chosen ones, or the usual; the name always. */
export function shownColumns(all: Column<ShortcutView>[], choice: Choice): Column<ShortcutView>[] {
  const ids = choice.length === 0 ? USUAL : choice.map((c) => c.id);
  return all.filter((c) => c.id === 'name' || ids.includes(c.id));
}

export const widthsOf = (choice: Choice): Record<string, number> =>
  Object.fromEntries(choice.flatMap((c) => (c.width === undefined ? [] : [[c.id, c.width]])));

const asChoice = (choice: Choice): Choice => (choice.length === 0 ? USUAL.map((id) => ({ id })) : choice);

/** The choice with one column more or one less. */
export function toggled(choice: Choice, id: string): Choice {
  const now = asChoice(choice);
  return now.some((c) => c.id === id) ? now.filter((c) => c.id !== id) : [...now, { id }];
}

/** The choice with another width of one column; without a width it is as wide as it is by itself. */
export function resized(choice: Choice, id: string, width: number | undefined): Choice {
  return asChoice(choice).map((c) => (c.id === id ? { id, ...(width !== undefined && { width }) } : c));
}
