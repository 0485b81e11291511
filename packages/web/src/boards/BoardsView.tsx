/** Boards: planes on which shortcuts lie where one put them, in regions. */
import { useMemo } from 'react';
import { NavLink, useNavigate, useParams } from 'react-router';
import Button from '@mui/material/Button';
import type { BoardView } from '@rellin/contract';
import { useBoards, useBoardLayout, useShortcuts } from '../api/queries';
import type { Act } from '../acts/acts';
import { MoreButton } from '../acts/MoreButton';
import { useSelection, useWorkspaceActions } from '../workspace/workspace';
import { BulkBar } from '../acts/BulkBar';
import { useKnown, Loaded } from '../parts/Loaded';
import { EmptyState } from '../parts/EmptyState';
import { GoneState } from '../parts/GoneState';
import { ViewHead } from '../parts/Roving';
import { BoardCanvas } from './BoardCanvas';
import { useBoardActs } from '../acts/useBoardActs';
import './boards.css';

/** Cells across: more than so many nobody sees side by side. */
const MOST_COLUMNS = 12;

/** What is done with a whole board, and with what is chosen on it. */
function BoardActs({ board, isFirst }: { board: BoardView; isFirst: boolean }) {
  const items = useBoardLayout(board.id).data?.items ?? [];
  const acts = useBoardActs();
  const navigate = useNavigate();
  const { openDialog } = useWorkspaceActions();
  const { chosen } = useSelection();
  const lying = items.filter((i) => chosen.includes(i.shortcutId)).map((i) => i.id);
  const widen = (columns: number) => void acts.change(board, { columns });
  const more: Act[] = [
    { id: 'new-region', label: 'New region…', run: () => openDialog({ kind: 'new-region', board }) },
    ...(isFirst ? [] : [{ id: 'first', label: 'Open this board first', run: () => void acts.putFirst(board) }]),
    ...(board.columns < MOST_COLUMNS
      ? [{ id: 'wider', label: 'One cell wider', run: () => widen(board.columns + 1) }]
      : []),
    ...(board.columns > 1 ? [{ id: 'narrower', label: 'One cell narrower', run: () => widen(board.columns - 1) }] : []),
    { id: 'rename', label: 'Rename…', run: () => openDialog({ kind: 'change-board', board }) },
    {
      id: 'remove',
      label: 'Remove board',
      grave: true,
      run: () => void acts.remove(board).then((gone) => gone && navigate('/boards')),
    },
  ];
  return (
    <span className="head-acts">
      <Button
        variant="outlined"
        title="Align everything to the grid, moving things as little as possible"
        onClick={() => void acts.tidy(board)}
      >
        Tidy
      </Button>
      {/* one in the place of the other: a line more would move the board under the pointer that chooses */}
      {lying.length > 1 ? (
        <Button variant="outlined" onClick={() => openDialog({ kind: 'new-bundle', board, itemIds: lying })}>
          Bundle these {lying.length}…
        </Button>
      ) : (
        <Button variant="outlined" onClick={() => void acts.bundleByKind(board)}>
          Bundle by kind
        </Button>
      )}
      <MoreButton acts={more} />
    </span>
  );
}

function Chosen({ board }: { board: BoardView }) {
  const layout = useBoardLayout(board.id);
  const shortcuts = useShortcuts().data;
  const known = useMemo(() => new Map((shortcuts ?? []).map((s) => [s.id, s])), [shortcuts]);
  return (
    <>
      <Loaded of={layout} what="The board">
        {(laid) => shortcuts && <BoardCanvas layout={laid} shortcuts={known} />}
      </Loaded>
      <BulkBar within={{ board }} />
    </>
  );
}

export default function BoardsView() {
  const { boardId } = useParams();
  const boards = useBoards();
  const { openDialog } = useWorkspaceActions();
  const list = boards.data ?? [];
  const known = useKnown(boards);
  const current = boardId ? list.find((b) => b.id === boardId) : list[0];
  return (
    <main className="view fills" id="view">
      <ViewHead>
        <h1>Boards</h1>
        <nav className="board-tabs" aria-label="Boards">
          {list.map((b) => (
            <NavLink key={b.id} to={`/boards/${b.id}`} className={b.id === current?.id ? 'chip on' : 'chip'}>
              {b.name}
            </NavLink>
          ))}
        </nav>
        {known && (
          <button type="button" className="chip add" onClick={() => openDialog({ kind: 'new-board' })}>
            + board
          </button>
        )}
        {current && <BoardActs board={current} isFirst={current.id === list[0]?.id} />}
      </ViewHead>
      <Loaded of={boards} what="The list of boards">
        {() =>
          current ? (
            <Chosen key={current.id} board={current} />
          ) : boardId ? (
            <GoneState what="board" />
          ) : (
            <EmptyState
              title="There is no board yet"
              action={
                <Button variant="contained" onClick={() => openDialog({ kind: 'new-board' })}>
                  New board
                </Button>
              }
            >
              On a board shortcuts lie where you put them: boat papers in one corner, net papers in another. Its regions
              keep them in rows, sorted, or just as they are left; nothing moves by itself.
            </EmptyState>
          )
        }
      </Loaded>
    </main>
  );
}
