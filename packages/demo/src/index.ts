export { demoFolders, type DemoFolders } from './folders.js';
export { makeInbox, OPEN_IN_INBOX } from './inbox.js';
export { writeDemo } from './write.js';
export { makeTree, type DemoFile, type DemoTree } from './tree.js';
export { catalogue, openingsOf, type SeedShortcut } from './catalogue.js';
