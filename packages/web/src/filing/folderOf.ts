import type { Item } from '../workspace/workspace';
import type { FilingTarget } from '../workspace/dropAct';

/** The real folder that an item stands for, where it stands for one. */
export function folderOf(item: Item | undefined): FilingTarget | undefined {
  if (item?.type === 'shortcut' && item.shortcut.kind === 'folder')
    return { shortcutId: item.shortcut.id, name: item.shortcut.name };
  if (item?.type === 'original' && item.entry.type === 'folder')
    return { placeId: item.entry.placeId, originalId: item.entry.id, name: item.entry.name };
  return undefined;
}
