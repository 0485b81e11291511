/** The card of a saved search: what it asks, what came and went since last looked, and how its answer grew. */
import { PublishedAt } from '../aliases/CardParts';
import { lazy, Suspense } from 'react';
import { useNavigate } from 'react-router';
import { useQuery } from '@tanstack/react-query';
import Button from '@mui/material/Button';
import type { SearchChange } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { get } from '../api/client';
import { useCollections, useSearches, useTags } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { SearchMark } from '../parts/CollectionMark';
import { tagProps } from '../parts/TagLabel';
import { useKnown } from '../parts/Loaded';
import { shortDate } from '../parts/dates';
import { useSearchActs } from '../acts/useSearchActs';

const SizeChart = lazy(() => import('./SizeChart'));
const number = new Intl.NumberFormat('en-GB');
const MOST = 12;

function ChangeList(props: { title: string; changes: SearchChange[]; there: boolean }) {
  const d = useCommands();
  if (props.changes.length === 0) return null;
  const more = props.changes.length - MOST;
  return (
    <section>
      <h3>
        {props.title}{' '}
        <span className="small">{props.changes.length >= 500 ? '500 or more' : props.changes.length}</span>
      </h3>
      <ul className="change-list">
        {props.changes.slice(0, MOST).map((c) => (
          <li key={`${c.placeId}/${c.originalId}`} title={c.trail.map(shown).join(' › ')}>
            {props.there ? (
              <button
                type="button"
                className="cut"
                onClick={() => void d.open({ placeId: c.placeId, originalId: c.originalId, route: 'search' })}
              >
                {shown(c.name)}
              </button>
            ) : (
              <span className="cut">{shown(c.name)}</span>
            )}
            <span className="small">{shortDate(c.at)}</span>
          </li>
        ))}
      </ul>
      {more > 0 && <p className="small">and {number.format(more)} more</p>}
    </section>
  );
}

export function SearchCard({ id }: { id: string }) {
  const search = useSearches().data?.find((s) => s.id === id);
  const tags = useTags().data ?? [];
  const collections = useCollections().data ?? [];
  const navigate = useNavigate();
  const acts = useSearchActs();
  const asked = useQuery({
    queryKey: ['searches', 'changes', id],
    queryFn: () => get(`/searches/${id}/changes`),
  });
  const known = useKnown(asked);
  if (!search || !known) return null;
  const changes = asked.data;
  const news = search.came + search.went;
  return (
    <>
      <header className="card-head">
        <SearchMark colour={search.colour} />
        <h2 title={search.name}>{search.name}</h2>
      </header>
      <p className="card-facts small">
        A saved search · {number.format(search.count)} found · since {shortDate(search.addedAt)}
      </p>
      <p className="mono query-shown">{search.query || 'everything'}</p>
      {search.description && <p className="description">{search.description}</p>}
      {news === 0 && <p className="small">Nothing came or went since {shortDate(search.lookedAt)}.</p>}
      <div className="card-acts">
        {news > 0 && (
          <Button variant="contained" onClick={() => void acts.markSeen(search)}>
            Mark as seen
          </Button>
        )}
        <Button variant="outlined" onClick={() => void acts.change(search, { muted: !search.muted })}>
          {search.muted ? 'Show how many are new' : 'Do not count what is new'}
        </Button>
      </div>
      {changes && (
        <>
          <ChangeList title="Came" changes={changes.came} there />
          <ChangeList title="Went" changes={changes.went} there={false} />
          {changes.today.length > 0 && (
            <p className="small">{number.format(changes.today.length)} of them new today.</p>
          )}
          {changes.sizes.length > 1 && (
            <section>
              <h3>How many there were</h3>
              <div className="size-chart">
                <Suspense fallback={null}>
                  <SizeChart sizes={changes.sizes} />
                </Suspense>
              </div>
              <p className="size-ends small">
                {[changes.sizes[0]!, changes.sizes.at(-1)!].map((end, i) => (
                  <span key={i}>
                    {end.day}: {end.count}
                  </span>
                ))}
              </p>
            </section>
          )}
        </>
      )}
      {search.tags.length + search.collections.length > 0 && (
        <section>
          <h3>Placed in</h3>
          <div className="chips">
            {search.tags.map((tagId) => {
              const tag = tags.find((t) => t.id === tagId);
              return (
                tag && (
                  <button
                    key={tagId}
                    type="button"
                    {...tagProps(tag)}
                    onClick={() => void navigate(`/collections/tag/${tagId}`)}
                  >
                    {tag.name}
                  </button>
                )
              );
            })}
            {search.collections.map((collectionId) => {
              const collection = collections.find((c) => c.id === collectionId);
              return (
                collection && (
                  <button
                    key={collectionId}
                    type="button"
                    className="chip"
                    onClick={() => void navigate(`/collections/${collectionId}`)}
                  >
                    {collection.name}
                  </button>
                )
              );
            })}
          </div>
        </section>
      )}
      <PublishedAt source="search" id={search.id} name={search.name} />
    </>
  );
}
