/** The collections: their outline, and what the chosen one holds. */
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import Button from '@mui/material/Button';
import ExpandMore from '@mui/icons-material/ExpandMore';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import type { CollectionView, TagView } from '@rellin/contract';
import { useCollections, useShortcuts, useTagged, useTags } from '../api/queries';
import { actItems } from '../acts/ActMenu';
import { runKey, useActs } from '../acts/useActs';
import { useDo } from '../acts/useDo';
import { useDesk } from '../frame/desk';
import { FolderList } from '../originals/FolderList';
import { BulkBar } from '../parts/BulkBar';
import { CollectionMark, TagDot } from '../parts/CollectionMark';
import { fullDate, untilWords } from '../parts/dates';
import { EmptyState } from '../parts/EmptyState';
import { Grid } from '../parts/Grid';
import { CollectionTree } from './CollectionTree';
import { MemberList } from './MemberList';
import { MEMBER_ORDERS } from './memberRows';
import { TAGGED_COLUMNS, taggedRows } from './taggedRows';
import { useGather } from './useGather';
import { useMemberRows } from './useMemberRows';
import './collections.css';

function OrderChip({ collection }: { collection: CollectionView }) {
  const gather = useGather();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <button
        type="button"
        className="chip"
        aria-haspopup="menu"
        aria-label={`Order: ${MEMBER_ORDERS[collection.sortBy].title}`}
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        {MEMBER_ORDERS[collection.sortBy].title}
        <ExpandMore aria-hidden sx={{ fontSize: 15, mr: '-4px' }} />
      </button>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        slotProps={{ list: { dense: true } }}
      >
        {Object.entries(MEMBER_ORDERS).map(([order, { title }]) => (
          <MenuItem
            key={order}
            selected={order === collection.sortBy}
            onClick={() => {
              setAnchor(null);
              void gather.change(collection, { sortBy: order });
            }}
          >
            {title}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

function MoreButton({
  item,
}: {
  item: { type: 'collection'; collection: CollectionView } | { type: 'tag'; tag: TagView };
}) {
  const acts = useActs('collection');
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button variant="outlined" aria-haspopup="menu" onClick={(e) => setAnchor(e.currentTarget)}>
        More
      </Button>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        slotProps={{ list: { dense: true, 'aria-label': 'More acts' } }}
      >
        {actItems(
          acts(item).filter((act) => act.id !== 'open'),
          () => setAnchor(null),
        )}
      </Menu>
    </>
  );
}

function Chosen({ collection, folderId }: { collection: CollectionView; folderId: string | undefined }) {
  const rows = useMemberRows(collection);
  const gather = useGather();
  const { openDialog } = useDesk();
  const { mirror } = collection;
  return (
    <>
      <div className="view-head">
        <h2>
          <CollectionMark colour={collection.colour} type={collection.type} /> {collection.name}
        </h2>
        {collection.type === 'mirror' ? (
          <span className="small">what its folder holds right now</span>
        ) : (
          <OrderChip collection={collection} />
        )}
        {collection.until && (
          <span className="chip attention" title={`Empties itself after ${fullDate(Date.parse(collection.until) - 1)}`}>
            {untilWords(collection.until)}
          </span>
        )}
        <span className="head-acts">
          {collection.type === 'working-set' && collection.count > 0 && (
            <Button variant="outlined" onClick={() => void gather.empty(collection)}>
              Empty
            </Button>
          )}
          {collection.type !== 'mirror' && (
            <Button variant="outlined" onClick={() => openDialog({ kind: 'gather', collection })}>
              Gather
            </Button>
          )}
          <MoreButton item={{ type: 'collection', collection }} />
        </span>
      </div>
      {collection.description && <p className="small collection-description">{collection.description}</p>}
      <BulkBar within={{ collection, rows }} />
      {mirror ? (
        mirror.state === 'lost' || mirror.state === 'unsure' ? (
          <EmptyState title="Its folder is not found">
            The folder this mirror shows is gone from every place. Repoint its shortcut, and the mirror shows it again.
          </EmptyState>
        ) : (
          <FolderList
            placeId={mirror.placeId}
            folderId={folderId ?? mirror.originalId}
            to={(id) => `/collections/${collection.id}/${id}`}
            top={mirror.originalId}
          />
        )
      ) : (
        rows && <MemberList collection={collection} rows={rows} />
      )}
    </>
  );
}

function Tagged({ tag }: { tag: TagView }) {
  const bearing = useTagged(tag.id).data;
  const shortcuts = useShortcuts().data;
  const { selected, select, openMenu } = useDesk();
  const acts = useActs('tag');
  const d = useDo();
  const rows = bearing && shortcuts && taggedRows(bearing, shortcuts);
  return (
    <>
      <div className="view-head">
        <h2>
          <TagDot colour={tag.colour} /> {tag.name}
        </h2>
        <span className="small">all that bears this tag, wherever it lies</span>
        <span className="push" />
        <MoreButton item={{ type: 'tag', tag }} />
      </div>
      {rows && (
        <Grid
          label={`Tagged ${tag.name}`}
          columns={TAGGED_COLUMNS}
          count={rows.length}
          item={(i) => rows[i]}
          keyOf={(r) => r.id}
          selectedKey={
            selected && rows.find((r) => r.selected.type === selected.type && r.selected.id === selected.id)?.id
          }
          onSelect={(r) => select(r.selected)}
          onOpen={(r) => void d.open({ ...r.what, route: 'tag' })}
          onMenu={(r, at) => openMenu(r.item, at)}
          onKey={(event, r) => runKey(acts(r.item), event.key)}
          empty={
            <EmptyState title="Nothing bears this tag">
              Press T on a shortcut or an original to put it on; several can be chosen first, with Ctrl or Shift.
            </EmptyState>
          }
        />
      )}
    </>
  );
}

export default function CollectionsView() {
  const { collectionId, folderId, tagId } = useParams();
  const collections = useCollections();
  const tags = useTags().data ?? [];
  const navigate = useNavigate();
  const { openDialog } = useDesk();
  const list = collections.data ?? [];
  const tag = tags.find((t) => t.id === tagId);
  const current = tagId ? undefined : (list.find((c) => c.id === collectionId) ?? (collectionId ? undefined : list[0]));
  return (
    <main className="view fills" id="view">
      <div className="view-head">
        <h1>Collections</h1>
        <span className="push" />
        <Button
          variant="outlined"
          onClick={() => openDialog({ kind: 'new-collection', collectionType: 'working-set' })}
        >
          New working set
        </Button>
        <Button variant="outlined" onClick={() => openDialog({ kind: 'new-collection', collectionType: 'plain' })}>
          New collection
        </Button>
      </div>
      {collections.isError ? (
        <EmptyState
          title="The collections cannot be read just now"
          action={
            <Button variant="contained" onClick={() => void collections.refetch()}>
              Try again
            </Button>
          }
        >
          {collections.error.message}
        </EmptyState>
      ) : collections.data && list.length === 0 && tags.length === 0 ? (
        <EmptyState
          title="Nothing is gathered yet"
          action={
            <Button variant="contained" onClick={() => openDialog({ kind: 'new-collection', collectionType: 'plain' })}>
              New collection
            </Button>
          }
        >
          A collection gathers things for a task from wherever they lie: this morning’s round, one project, the ten
          small tools. It takes one slot on the strip, and a thing may be in many.
        </EmptyState>
      ) : (
        <div className="collections">
          {collections.data ? (
            <CollectionTree collections={list} tags={tags} current={tag?.id ?? current?.id} />
          ) : (
            <div />
          )}
          <section className="collection" aria-label={tag?.name ?? current?.name ?? 'Collection'}>
            {tag ? (
              <Tagged tag={tag} />
            ) : current ? (
              <Chosen key={current.id} collection={current} folderId={folderId} />
            ) : (
              collections.data && (
                <EmptyState
                  title="That collection is not here any more"
                  action={
                    <Button variant="contained" onClick={() => void navigate('/bin')}>
                      Look in the bin
                    </Button>
                  }
                >
                  It was removed, perhaps in another window.
                </EmptyState>
              )
            )}
          </section>
        </div>
      )}
    </main>
  );
}
