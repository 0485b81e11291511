/** Links on disk, in the check-up: those that Rellin keeps, and those that lie in the places already. */
import { useNavigate } from 'react-router';
import Button from '@mui/material/Button';
import type { ShortcutView } from '@rellin/contract';
import { nameOf, parentOf, shown } from '@rellin/core/paths';
import { NotLoaded } from '../parts/Loaded';
import { EmptyState } from '../parts/EmptyState';
import { usePlaces } from '../api/queries';
import { trailOf } from '../parts/trailOf';
import { useWorkspaceActions } from '../workspace/workspace';
import { useAliasActs, useAliases, useFoundLinks, usePublications } from './useAliases';
import './aliases.css';

/** The view that shows a source. */
const VIEW_OF = { collection: 'collections', tag: 'collections/tag', search: 'searches' } as const;

const LEADS = {
  inside: 'Leads to something in your places',
  outside: 'Leads out of your places',
  nowhere: 'Leads nowhere',
} as const;

function Where({ path }: { path: string }) {
  const places = usePlaces().data ?? [];
  return (
    <span className="where" title={shown(path)}>
      <b>{shown(nameOf(path))}</b>
      <span className="small">{trailOf(parentOf(path), places)}</span>
    </span>
  );
}

export function LinksPart({ shortcutOf }: { shortcutOf(id: string): ShortcutView | undefined }) {
  const aliases = useAliases();
  const publications = usePublications();
  const found = useFoundLinks();
  const acts = useAliasActs();
  const navigate = useNavigate();
  const { select } = useWorkspaceActions();
  const failed = aliases.error ?? publications.error ?? found.error;
  if (failed)
    return (
      <NotLoaded
        title="The links could not be loaded"
        error={failed}
        onAgain={() => Promise.all([aliases.refetch(), publications.refetch(), found.refetch()])}
      />
    );
  if (!aliases.data || !publications.data || !found.data) return null;
  const { links, total } = found.data;
  if (aliases.data.length + publications.data.length + links.length === 0)
    return (
      <EmptyState title="No links on disk">
        “Place an alias…” on a shortcut keeps a link file for it in a real folder; “Publish…” on a collection keeps a
        folder of them, which the open and save dialogs of every program reach.
      </EmptyState>
    );
  return (
    <>
      {publications.data.length > 0 && (
        <section aria-label="Published">
          <h2 className="part-title">Published</h2>
          <div className="link-list sheet">
            {publications.data.map((p) => (
              <div key={p.id} className="link-row">
                {p.path === null ? (
                  <span className="where">
                    <b>{p.name}</b>
                    <span className="small">A menu of the desktop</span>
                  </span>
                ) : (
                  <Where path={p.path} />
                )}
                <span className={`small ${p.state}`}>
                  {p.state === 'there'
                    ? p.asMenu
                      ? 'Up to date'
                      : `${p.links} ${p.links === 1 ? 'link' : 'links'}, up to date`
                    : p.reason}
                </span>
                <span className="acts">
                  <Button variant="outlined" onClick={() => void navigate(`/${VIEW_OF[p.source]}/${p.sourceId}`)}>
                    Show
                  </Button>
                  <Button variant="outlined" onClick={() => void acts.unpublish(p)}>
                    Unpublish
                  </Button>
                </span>
              </div>
            ))}
          </div>
        </section>
      )}
      {aliases.data.length > 0 && (
        <section aria-label="Aliases">
          <h2 className="part-title">Aliases</h2>
          <div className="link-list sheet">
            {aliases.data.map((a) => (
              <div key={a.id} className="link-row">
                <Where path={a.path} />
                <span className={`small ${a.state}`}>
                  {a.state === 'there' ? `of “${shortcutOf(a.shortcutId)?.name ?? ''}”, up to date` : a.reason}
                </span>
                <span className="acts">
                  <Button variant="outlined" onClick={() => select({ type: 'shortcut', id: a.shortcutId })}>
                    Card
                  </Button>
                  <Button variant="outlined" onClick={() => void acts.remove(a)}>
                    Delete the alias
                  </Button>
                </span>
              </div>
            ))}
          </div>
        </section>
      )}
      {links.length > 0 && (
        <section aria-label="Links already there">
          <h2 className="part-title">Links already there</h2>
          <p className="small">
            Rellin did not write these. One that is added to the catalogue gets a shortcut, and is kept up to date from
            then on.
          </p>
          <div className="link-list sheet">
            {links.map((l) => (
              <div key={`${l.placeId}/${l.originalId}`} className="link-row">
                <Where path={l.path} />
                <span className={`small${l.leads === 'nowhere' ? ' failed' : ''}`}>
                  {LEADS[l.leads]}: <span className="mono">{shown(l.target)}</span>
                </span>
                <span className="acts">
                  {l.leads === 'inside' && (
                    <Button variant="outlined" onClick={() => void acts.take(l)}>
                      Add to catalogue
                    </Button>
                  )}
                  {l.candidates.map((c) => (
                    <Button
                      key={`${c.placeId}/${c.originalId}`}
                      variant="outlined"
                      title={shown(c.path)}
                      onClick={() => void acts.take(l, c)}
                    >
                      Lead to {shown(nameOf(parentOf(c.path)))} › {shown(nameOf(c.path))}
                    </Button>
                  ))}
                </span>
              </div>
            ))}
          </div>
          {total > links.length && <p className="small">{total - links.length} more are in your folders.</p>}
        </section>
      )}
    </>
  );
}
