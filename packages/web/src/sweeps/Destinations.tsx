/** Where things go, each with its key: a thing is dropped onto one, or sent by the key. */
import { useDroppable } from '@dnd-kit/core';
import { formatBytes } from '@rellin/core/units';
import type { SweepFolder, SweepTo } from '@rellin/contract';
import { KeyCap } from '../parts/KeyCap';
import type { Section } from './draft';
import { folderWords } from './words';

/** The keys of the first folders, in the order of the bar. */
const FOLDER_KEYS = ['1', '2', '3', '4', '5', '6', '7', '8', '9'];

export interface Destination {
  to: SweepTo;
  name: string;
  key: string | undefined;
  section: Section | undefined;
}

/** The fullest folders, then the bin and what is left; those are there also while nothing goes to them. */
export function destinationsOf(sections: readonly Section[], folders: readonly SweepFolder[]): Destination[] {
  const into = sections.filter((s) => typeof s.to === 'number');
  const of = (to: SweepTo) => sections.find((s) => s.to === to);
  return [
    ...into.map((section, i): Destination => ({
      ...{ to: section.to, section, key: FOLDER_KEYS[i] },
      name: folderWords(folders[section.to as number]!),
    })),
    { to: 'bin', name: 'Bin', key: 'B', section: of('bin') },
    { to: 'leave', name: 'Leave there', key: 'L', section: of('leave') },
  ];
}

export function Destinations({ sections, folders }: { sections: readonly Section[]; folders: readonly SweepFolder[] }) {
  const all = destinationsOf(sections, folders);
  // a bar of all of them would push the list away; what has no key is dropped on in the list
  const keyed = all.filter((destination) => destination.key !== undefined);
  const others = all.length - keyed.length;
  return (
    <ul className="sweep-destinations" aria-label="Where things go">
      {keyed.map((destination) => (
        <DestinationChip
          key={String(destination.to)}
          destination={destination}
          trail={typeof destination.to === 'number' ? folders[destination.to]!.trail : []}
        />
      ))}
      {others > 0 && (
        <li className="small sweep-more">and {others === 1 ? 'one more folder' : `${others} more folders`} below</li>
      )}
    </ul>
  );
}

function DestinationChip({ destination, trail }: { destination: Destination; trail: readonly string[] }) {
  const { to, name, key, section } = destination;
  const { setNodeRef, isOver } = useDroppable({ id: `chip ${to}`, data: { to } });
  return (
    <li
      ref={setNodeRef}
      className={`sweep-destination ${typeof to === 'number' ? 'folder' : to}${isOver ? ' over' : ''}`}
      title={[...trail, name].join(' › ')}
    >
      {key && <KeyCap>{key}</KeyCap>}
      <span className="name cut">{name}</span>
      <span className="small">{section ? `${section.things.length} · ${formatBytes(section.size)}` : 'nothing'}</span>
    </li>
  );
}
