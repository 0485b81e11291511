import type { EntryView, ProgramId } from '@rellin/contract';
import type { Pictured } from './Picture';

/** A program as far as its picture goes. */
export const asPictured = (programId: ProgramId): Pictured => ({
  picture: '',
  kind: 'program',
  target: 'program',
  location: programId,
  placeId: null,
  originalId: null,
  modified: null,
  state: 'ready',
});

/** An original as far as its picture goes: a thumbnail where it is one, or its kind. */
export const picturedEntry = ({ kind, placeId, id, modified }: EntryView): Pictured => ({
  picture: '',
  kind,
  target: 'original',
  location: '',
  placeId,
  originalId: id,
  modified,
  state: 'ready',
});
