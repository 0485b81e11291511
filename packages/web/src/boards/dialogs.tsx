/** The forms about boards, their regions and bundles. */
import type { DialogRequest } from '../workspace/dialogRequest';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { REGION_ORDERS, type RegionOrder } from '@rellin/core/board';
import { useBoards, useBoardLayout } from '../api/queries';
import { gatheredName } from '../acts/useGather';
import { useDialogs, useWorkspaceActions, type Gathered } from '../workspace/workspace';
import { FormDialog } from '../parts/FormDialog';
import { useBoardActs, type BoardActs } from '../acts/useBoardActs';

type Of<K extends DialogRequest['kind']> = Extract<DialogRequest, { kind: K }>;

const ORDERS: Record<RegionOrder, string> = {
  free: 'free: each lies where you put it',
  own: 'own order, in rows',
  name: 'always sorted by name',
  kind: 'always sorted by kind',
  size: 'always sorted by size, the largest first',
  modified: 'always sorted by change, the latest first',
  opened: 'always sorted by opening, the latest first',
};

function OrderField({ value, onChange }: { value: RegionOrder; onChange: (order: RegionOrder) => void }) {
  return (
    <TextField select label="Order" value={value} onChange={(e) => onChange(e.target.value as RegionOrder)}>
      {REGION_ORDERS.map((order) => (
        <MenuItem key={order} value={order}>
          {ORDERS[order]}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** One name, and perhaps an order. */
function NameDialog(props: {
  title: string;
  submit: string;
  name?: string;
  order?: RegionOrder;
  onClose: () => void;
  /** False where it was refused. */
  onName(name: string, order: RegionOrder): Promise<boolean>;
}) {
  const form = useForm({ defaultValues: { name: props.name ?? '' } });
  const [order, setOrder] = useState(props.order ?? 'free');
  const error = form.formState.errors.name?.message;
  return (
    <FormDialog
      title={props.title}
      submit={props.submit}
      onSubmit={form.handleSubmit(async ({ name }) => (await props.onName(name.trim(), order)) && props.onClose())}
      onClose={props.onClose}
      busy={form.formState.isSubmitting}
    >
      <TextField
        label="Name"
        autoFocus
        error={error !== undefined}
        helperText={error}
        {...form.register('name', { validate: (v) => v.trim() !== '' || 'It needs a name.' })}
      />
      {props.order && <OrderField value={order} onChange={setOrder} />}
    </FormDialog>
  );
}

function LayDialog({ request, onClose }: { request: Of<'lay-on-board'>; onClose: () => void }) {
  const { gathered } = request;
  const boards = useBoards().data ?? [];
  const acts = useBoardActs();
  const { openDialog } = useWorkspaceActions();
  const [boardId, setBoardId] = useState(request.boardId);
  const [regionId, setRegionId] = useState('');
  const board = boards.find((b) => b.id === boardId) ?? boards[0];
  const regions = useBoardLayout(board?.id).data?.regions ?? [];
  const region = regions.find((r) => r.id === regionId) ?? regions[0];
  if (boards.length === 0) return <NewBoard gathered={gathered} onClose={onClose} />;
  return (
    <FormDialog
      title={request.boardId ? `Move ${gatheredName(gathered)} to` : `Put ${gatheredName(gathered)} on`}
      submit={request.boardId ? 'Move it' : 'Put it there'}
      onClose={onClose}
      busy={!board || !region}
      onSubmit={(event) => {
        event.preventDefault();
        if (board && region)
          void acts
            .put(board, gathered, { regionId: region.id }, request.boardId === board.id)
            .then((put) => put && onClose());
      }}
    >
      <TextField
        select
        label="Board"
        value={board?.id ?? ''}
        onChange={(e) =>
          e.target.value === 'new' ? openDialog({ kind: 'new-board', gathered }) : setBoardId(e.target.value)
        }
      >
        {boards.map((b) => (
          <MenuItem key={b.id} value={b.id}>
            {b.name}
          </MenuItem>
        ))}
        <MenuItem value="new">New board…</MenuItem>
      </TextField>
      <TextField select autoFocus label="Region" value={region?.id ?? ''} onChange={(e) => setRegionId(e.target.value)}>
        {regions.map((r) => (
          <MenuItem key={r.id} value={r.id}>
            {r.name}
          </MenuItem>
        ))}
      </TextField>
    </FormDialog>
  );
}

function NewBoard({ gathered, onClose }: { gathered?: Gathered; onClose: () => void }) {
  const acts = useBoardActs();
  const navigate = useNavigate();
  return (
    <NameDialog
      title={gathered ? `New board with ${gatheredName(gathered)}` : 'New board'}
      submit="Make it"
      onClose={onClose}
      onName={async (name) => {
        const made = await acts.make(name, gathered);
        if (made && !gathered) void navigate(`/boards/${made.id}`);
        return made !== undefined;
      }}
    />
  );
}

export function BoardDialogs() {
  const { dialog } = useDialogs();
  const { closeDialog } = useWorkspaceActions();
  const acts = useBoardActs();
  return dialog ? dialogFor(dialog, acts, closeDialog) : null;
}

function dialogFor(dialog: DialogRequest, acts: BoardActs, onClose: () => void) {
  switch (dialog.kind) {
    case 'new-board':
      return <NewBoard gathered={dialog.gathered} onClose={onClose} />;
    case 'change-board':
      return (
        <NameDialog
          title={`The board “${dialog.board.name}”`}
          submit="Rename"
          name={dialog.board.name}
          onClose={onClose}
          onName={async (name) => (await acts.change(dialog.board, { name })) !== undefined}
        />
      );
    case 'new-region':
      return (
        <NameDialog
          title={`New region on “${dialog.board.name}”`}
          submit="Add it"
          order="free"
          onClose={onClose}
          onName={async (name, order) => (await acts.addRegion(dialog.board, name, order)) === true}
        />
      );
    case 'change-region':
      return (
        <NameDialog
          title={`The region “${dialog.region.name}”`}
          submit="Save"
          name={dialog.region.name}
          order={dialog.region.order}
          onClose={onClose}
          onName={async (name, order) =>
            (await acts.changeRegion(dialog.board, dialog.region, { name, order })) === true
          }
        />
      );
    case 'new-bundle':
      return (
        <NameDialog
          title={`Bundle ${dialog.itemIds.length} things`}
          submit="Bundle them"
          onClose={onClose}
          onName={async (name) => (await acts.bundle(dialog.board, dialog.itemIds, name)) === true}
        />
      );
    case 'change-bundle':
      return (
        <NameDialog
          title={`The bundle “${dialog.bundle.name}”`}
          submit="Rename"
          name={dialog.bundle.name}
          onClose={onClose}
          onName={async (name) => (await acts.changeBundle(dialog.board, dialog.bundle, { name })) === true}
        />
      );
    case 'lay-on-board':
      return <LayDialog request={dialog} onClose={onClose} />;
    default:
      return null;
  }
}
