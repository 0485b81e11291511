import type { ProgramId } from '@rellin/contract';
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
