export { parseKeyFile, unescapeValue, splitList, localeKeys, type KeyFile } from './keyFile.js';
export { parseDesktopEntry, desktopFileId, type Program, type DesktopEntryResult } from './desktopEntry.js';
export { expandExec, type ExecContext, type ExecResult } from './exec.js';
export { parseUserDirs, type UserDir } from './userDirs.js';
export { iconLookup, type IconDisk, type IconRequest } from './iconTheme.js';
export {
  parseMimeApps,
  mimeAppsFiles,
  programsFor,
  defaultIn,
  withDefault,
  type MimeApps,
  type Opens,
} from './mimeApps.js';
