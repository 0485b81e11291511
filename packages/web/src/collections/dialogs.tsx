/** The forms about collections and tags. */
import { useDialogs, useWorkspaceActions } from '../workspace/workspace';
import { AddToDialog } from './AddToDialog';
import { CollectFolderDialog } from './CollectFolderDialog';
import { CollectionDialog } from './CollectionDialog';
import { GatherDialog } from './GatherDialog';
import { ChangeTagDialog, TagsDialog } from './TagDialogs';

export function GatherDialogs() {
  const { dialog } = useDialogs();
  const { closeDialog } = useWorkspaceActions();
  switch (dialog?.kind) {
    case 'new-collection':
    case 'change-collection':
      return <CollectionDialog request={dialog} onClose={closeDialog} />;
    case 'add-to-collection':
      return <AddToDialog gathered={dialog.gathered} onClose={closeDialog} />;
    case 'collect-folder':
      return <CollectFolderDialog folder={dialog.folder} onClose={closeDialog} />;
    case 'gather':
      return <GatherDialog collection={dialog.collection} onClose={closeDialog} />;
    case 'tags':
      return <TagsDialog gathered={dialog.gathered} onClose={closeDialog} />;
    case 'change-tag':
      return <ChangeTagDialog tag={dialog.tag} onClose={closeDialog} />;
    default:
      return null;
  }
}
