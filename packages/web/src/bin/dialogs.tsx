/** What is asked before originals go where no undo, or no bin of their own, is. */
import { formatBytes } from '@rellin/core/units';
import { FormDialog } from '../parts/FormDialog';
import type { RequestOf } from '../workspace/dialogRequest';
import { useCommands } from '../workspace/useCommands';
import { useDialogs, useWorkspaceActions } from '../workspace/workspace';

function NoBinDialog({ request, onClose }: { request: RequestOf<'no-bin'>; onClose: () => void }) {
  const { originals, name } = request.view;
  const [it, they] = originals === 1 ? ['it', 'one original lies'] : ['them', `${originals} originals lie`];
  return (
    <FormDialog
      title={`“${name}” has no bin that Rellin may use`}
      submit={`Copy ${it} into the bin at home`}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        onClose();
        request.onAgree();
      }}
    >
      <p>
        Nothing was deleted yet; {they} there. Rellin can copy {it} into the bin of your home folder, check the copy,
        and delete {it} there then. This takes room at home and may take a while; it can be undone.
      </p>
    </FormDialog>
  );
}

function ExpungeDialog({ request, onClose }: { request: RequestOf<'expunge'>; onClose: () => void }) {
  const { originals, isAll } = request;
  const d = useCommands();
  const what = originals.length === 1 ? `“${originals[0]!.name}”` : `${originals.length} originals`;
  const takes = originals.reduce((sum, o) => sum + o.takes, 0);
  return (
    <FormDialog
      title={`Delete ${what} for good?`}
      submit="Delete for good"
      danger
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        onClose();
        void d.expunge(originals);
      }}
    >
      <p>
        {isAll ? 'Everything in the bins of the disks that are here goes' : 'It goes'}, also what other programs put
        there. This frees {formatBytes(takes)} and <strong>cannot be undone</strong>.
      </p>
    </FormDialog>
  );
}

export function BinDialogs() {
  const { dialog } = useDialogs();
  const { closeDialog } = useWorkspaceActions();
  if (dialog?.kind === 'no-bin') return <NoBinDialog request={dialog} onClose={closeDialog} />;
  return dialog?.kind === 'expunge' ? <ExpungeDialog request={dialog} onClose={closeDialog} /> : null;
}
