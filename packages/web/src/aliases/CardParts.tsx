/** On a card: where a shortcut has aliases, and where a collection, tag or saved search is published. */
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Close from '@mui/icons-material/Close';
import type { PublicationSource, ShortcutView } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { useCommands } from '../workspace/useCommands';
import { useWorkspaceActions } from '../workspace/workspace';
import { useAliasActs, useAliases, usePublications } from './useAliases';
import './aliases.css';

export function AliasesOf({ shortcut: s }: { shortcut: ShortcutView }) {
  const aliases = (useAliases().data ?? []).filter((a) => a.shortcutId === s.id);
  const acts = useAliasActs();
  const { openDialog } = useWorkspaceActions();
  return (
    <section>
      <h3>Aliases on disk</h3>
      {aliases.map((a) => (
        <div key={a.id} className="alias-line">
          <span className="alias-path">
            <span className="mono small">{shown(a.path)}</span>
            {a.state !== 'there' && <span className="small">{a.reason}</span>}
          </span>
          <IconButton
            size="small"
            aria-label={`Take the alias ${shown(a.name)} away`}
            onClick={() => void acts.remove(a)}
          >
            <Close sx={{ fontSize: 15 }} />
          </IconButton>
        </div>
      ))}
      <div className="chips">
        <button type="button" className="chip add" onClick={() => openDialog({ kind: 'alias', shortcut: s })}>
          + alias
        </button>
      </div>
    </section>
  );
}

export function PublishedAt({ source, id, name }: { source: PublicationSource; id: string; name: string }) {
  const published = (usePublications().data ?? []).filter((p) => p.source === source && p.sourceId === id);
  const acts = useAliasActs();
  const d = useCommands();
  const { openDialog } = useWorkspaceActions();
  return (
    <section>
      <h3>Published</h3>
      {published.map((p) => (
        <div key={p.id} className="alias-line">
          <span className="alias-path">
            <span className={p.asMenu ? 'small' : 'mono small'}>
              {p.path === null ? 'A menu of the desktop' : shown(p.path)}
            </span>
            {p.state !== 'there' && <span className="small">{p.reason}</span>}
          </span>
          {p.path !== null && (
            <button type="button" className="chip" onClick={() => void d.copy(p.path!)}>
              Copy
            </button>
          )}
          <Button variant="outlined" onClick={() => void acts.unpublish(p)}>
            Unpublish
          </Button>
        </div>
      ))}
      <div className="chips">
        <button type="button" className="chip add" onClick={() => openDialog({ kind: 'publish', source, id, name })}>
          + {published.length === 0 ? 'publish' : 'elsewhere too'}
        </button>
      </div>
    </section>
  );
}
