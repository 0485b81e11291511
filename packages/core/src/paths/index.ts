export { fromBytes, toBytes, hasEscapes, shown } from './pathText.js';
export {
  join,
  parentOf,
  nameOf,
  segmentsOf,
  extensionOf,
  nameWithoutExtension,
  isWithin,
  normalizeAbsolute,
} from './relPath.js';
export { parseFileUri, toFileUri, type FileUriError, type FileUriResult } from './fileUri.js';
export { typedPath, type TypedPath } from './typedPath.js';
