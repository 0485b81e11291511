export { jaroWinkler } from './jaroWinkler.js';
export {
  evidenceOf,
  scored,
  type Commonness,
  type Field,
  type FieldEvidence,
  type Scored,
  type Traits,
} from './linkage.js';
export { folderMoves, type FolderMove, type LostPath } from './folderMoves.js';
