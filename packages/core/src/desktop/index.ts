export { parseKeyFile, unescapeValue, splitList, localeKeys, type KeyFile } from './keyFile.js';
export {
  parseDesktopEntry,
  desktopFileId,
  type EntrySession,
  type Program,
  type DesktopEntryResult,
} from './desktopEntry.js';
export {
  commandsFor,
  expandExec,
  programIn,
  EXEC_FAULTS,
  type ExecContext,
  type ExecFault,
  type ExecResult,
} from './exec.js';
export { lineage, parseMimeTree, type MimeTree } from './mimeTree.js';
export { parseUserDirs, type UserDir } from './userDirs.js';
export { iconLookup, type IconDisk, type IconRequest } from './iconTheme.js';
export {
  parseMimeApps,
  mimeAppsFiles,
  programsFor,
  defaultFor,
  defaultIn,
  withDefault,
  isPlainEntry,
  type MimeApps,
  type MimeAppsFile,
  type Opens,
} from './mimeApps.js';
