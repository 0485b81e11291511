/** Where a shortcut stands: its pin, its collections, its tags; and what goes with it. */
import { Link } from 'react-router';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Close from '@mui/icons-material/Close';
import type { ShortcutDetail } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { useBoards, useCollections, useTags } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { useGather } from '../acts/useGather';
import { useWorkspaceActions } from '../workspace/workspace';
import { BoardMark, CollectionMark } from '../parts/CollectionMark';
import { Tether } from '../parts/Tether';
import { tagProps } from '../parts/TagLabel';

export function PlacedIn({ shortcut: s }: { shortcut: ShortcutDetail }) {
  const collections = (useCollections().data ?? []).filter((c) => s.collections.includes(c.id));
  const boards = (useBoards().data ?? []).filter((b) => s.boards.includes(b.id));
  const tags = (useTags().data ?? []).filter((t) => s.tags.includes(t.id));
  const { openDialog } = useWorkspaceActions();
  const gathered = { shortcuts: [{ id: s.id, name: s.name }] };
  return (
    <section>
      <h3>Placed in</h3>
      <div className="chips">
        {s.pinSlot !== null && <span className="chip plain">Pin strip, {s.pinSlot}</span>}
        {collections.map((c) => (
          <Link key={c.id} className="chip" to={`/collections/${c.id}`}>
            <CollectionMark colour={c.colour} type={c.type} /> {c.name}
          </Link>
        ))}
        {boards.map((b) => (
          <Link key={b.id} className="chip" to={`/boards/${b.id}`}>
            <BoardMark /> {b.name}
          </Link>
        ))}
        {tags.map((t) => (
          <Link key={t.id} {...tagProps(t)} to={`/collections/tag/${t.id}`}>
            {t.name}
          </Link>
        ))}
        <button type="button" className="chip add" onClick={() => openDialog({ kind: 'add-to-collection', gathered })}>
          + collection
        </button>
        <button type="button" className="chip add" onClick={() => openDialog({ kind: 'lay-on-board', gathered })}>
          + board
        </button>
        <button type="button" className="chip add" onClick={() => openDialog({ kind: 'tags', gathered })}>
          + tag
        </button>
      </div>
    </section>
  );
}

export function GoesWith({ shortcut: s }: { shortcut: ShortcutDetail }) {
  const d = useCommands();
  const gather = useGather();
  const { openDialog, select } = useWorkspaceActions();
  const openAll = async () => {
    for (const w of [{ shortcutId: s.id }, ...s.goesWith])
      await d.open({ shortcutId: w.shortcutId, route: 'together' });
  };
  return (
    <section>
      <h3>Goes with</h3>
      {s.goesWith.map((w) => (
        <div key={w.id} className="goes-with">
          <button type="button" onClick={() => void d.open({ shortcutId: w.shortcutId, route: 'goes-with' })}>
            <Tether state={w.state} />
            <span className="cut">{w.name}</span>
            <span className="small">{kindWord(w.kind)}</span>
          </button>
          <button type="button" className="chip" onClick={() => select({ type: 'shortcut', id: w.shortcutId })}>
            Card
          </button>
          <IconButton
            size="small"
            aria-label={`${w.name} no longer goes with it`}
            onClick={() => void gather.removeGoesWith(s, w.id)}
          >
            <Close sx={{ fontSize: 15 }} />
          </IconButton>
        </div>
      ))}
      <div className="chips">
        <button type="button" className="chip add" onClick={() => openDialog({ kind: 'goes-with', shortcut: s })}>
          + something
        </button>
        {s.goesWith.length > 0 && (
          <Button variant="outlined" onClick={() => void openAll()}>
            Open all {s.goesWith.length + 1}
          </Button>
        )}
      </div>
    </section>
  );
}
