export { applicationEntry, execArgument, webEntry, menuText, directoryEntry, type MenuGroup } from './desktopText.js';
export { linkName, linkTarget, type LinkForm } from './names.js';
export {
  planLinks,
  type Deleted,
  type LinkPlan,
  type LinkStep,
  type Settled,
  type WantedLink,
  type WrittenLink,
} from './linkPlan.js';
export type { Listing, SeenEntry } from './folderView.js';
