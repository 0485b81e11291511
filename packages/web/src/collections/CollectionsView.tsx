/** The collections: their outline, and what the chosen one holds. */
import { useCallback } from 'react';
import { useNavigate, useParams } from 'react-router';
import Button from '@mui/material/Button';
import type { CollectionView, OriginalId, TagView } from '@rellin/contract';
import { idIn } from '../api/idIn';
import { useCollections, useSearches, useShortcuts, useTagged, useTags } from '../api/queries';
import { PublishedLine } from '../aliases/PublishedLine';
import { MoreButton } from '../acts/MoreButton';
import { runKey, useActs } from '../acts/useActs';
import { useCommands } from '../workspace/useCommands';
import { useSelection, useWorkspaceActions, type Item } from '../workspace/workspace';
import { FolderList } from '../originals/FolderList';
import { BulkBar } from '../acts/BulkBar';
import { NotLoaded } from '../parts/Loaded';
import { ChoiceChip } from '../parts/ChoiceChip';
import { CollectionMark } from '../parts/CollectionMark';
import { SHAPE_WORDS } from '../parts/listShapes';
import { ShapeChip } from '../parts/ShapedList';
import { useListShape } from '../parts/useListShape';
import { TagLabel } from '../parts/TagLabel';
import { CollectionPicture } from '../parts/Picture';
import { fullDate, untilWords } from '../parts/dates';
import { EmptyState } from '../parts/EmptyState';
import { GoneState } from '../parts/GoneState';
import { Grid } from '../parts/Grid';
import { ViewHead } from '../parts/Roving';
import { CollectionTree } from './CollectionTree';
import { MemberList } from './MemberList';
import { MEMBER_ORDERS } from './memberRows';
import { TAGGED_COLUMNS, taggedRows } from './taggedRows';
import { useGather } from '../acts/useGather';
import { useMemberRows } from './useMemberRows';
import './collections.css';

function OrderChip({ collection }: { collection: CollectionView }) {
  const gather = useGather();
  return (
    <ChoiceChip
      label="Order"
      value={collection.sortBy}
      options={Object.entries(MEMBER_ORDERS).map(([order, { title }]) => ({
        value: order as CollectionView['sortBy'],
        label: title,
      }))}
      onChange={(sortBy) => void gather.change(collection, { sortBy })}
    />
  );
}

function More({ item }: { item: Item }) {
  const acts = useActs('collection');
  return <MoreButton acts={acts(item).filter((act) => act.id !== 'open')} />;
}

function Chosen({ collection, folderId }: { collection: CollectionView; folderId: OriginalId | undefined }) {
  const rows = useMemberRows(collection);
  const [shape, setShape] = useListShape('members');
  const gather = useGather();
  const { openDialog } = useWorkspaceActions();
  const { mirror } = collection;
  const to = useCallback((id: OriginalId) => `/collections/${collection.id}/${id}`, [collection.id]);
  return (
    <>
      <ViewHead>
        <h2>
          <CollectionMark colour={collection.colour} type={collection.type} />{' '}
          <CollectionPicture picture={collection.picture} size={20} /> {collection.name}
        </h2>
        {collection.type === 'mirror' ? (
          <span className="small">what its folder holds right now</span>
        ) : (
          <>
            <OrderChip collection={collection} />
            <ShapeChip shape={shape} words={SHAPE_WORDS} onShape={setShape} />
          </>
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
              Add several…
            </Button>
          )}
          <More item={{ type: 'collection', collection }} />
        </span>
      </ViewHead>
      {collection.description && <p className="small collection-description">{collection.description}</p>}
      <PublishedLine source="collection" id={collection.id} />
      {mirror ? (
        mirror.state === 'lost' || mirror.state === 'unsure' ? (
          <EmptyState title="Its folder is not found">
            The folder this mirror shows is gone from every place. Repoint its shortcut, and the mirror shows it again.
          </EmptyState>
        ) : (
          <FolderList
            placeId={mirror.placeId}
            folderId={folderId ?? mirror.originalId}
            to={to}
            top={mirror.originalId}
          />
        )
      ) : (
        rows && <MemberList collection={collection} rows={rows} />
      )}
      {collection.type !== 'mirror' && <BulkBar within={{ collection }} />}
    </>
  );
}

function Tagged({ tag }: { tag: TagView }) {
  const bearing = useTagged(tag.id).data;
  const shortcuts = useShortcuts().data;
  const searches = useSearches().data;
  const navigate = useNavigate();
  const { selected } = useSelection();
  const { select, openMenu } = useWorkspaceActions();
  const acts = useActs('tag');
  const d = useCommands();
  const rows = bearing && shortcuts && taggedRows(bearing, shortcuts, searches);
  return (
    <>
      <ViewHead>
        <h2>
          <TagLabel tag={tag} />
        </h2>
        <span className="small">everything with this tag, wherever it is</span>
        <span className="push" />
        <More item={{ type: 'tag', tag }} />
      </ViewHead>
      {rows && (
        <Grid
          label={`Tagged ${tag.name}`}
          columns={TAGGED_COLUMNS}
          count={rows.length}
          item={(i) => rows[i]}
          keyOf={(r) => r.id}
          nameOf={(r) => r.name}
          selectedKey={
            selected && rows.find((r) => r.selected.type === selected.type && r.selected.id === selected.id)?.id
          }
          onSelect={(r) => select(r.selected)}
          onOpen={(r) =>
            'searchId' in r.what
              ? void navigate(`/searches/${r.what.searchId}`)
              : void d.open({ ...r.what, route: 'tag' })
          }
          onMenu={(r, at) => openMenu(r.item, at)}
          onKey={(event, r) => runKey(acts(r.item), event.key)}
          empty={
            <EmptyState title="Nothing has this tag">
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
  const { openDialog } = useWorkspaceActions();
  const list = collections.data ?? [];
  const tag = tags.find((t) => t.id === tagId);
  const current = tagId ? undefined : (list.find((c) => c.id === collectionId) ?? (collectionId ? undefined : list[0]));
  return (
    <main className="view fills" id="view">
      <ViewHead>
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
      </ViewHead>
      {collections.isError ? (
        <NotLoaded
          title="The collections could not be loaded"
          error={collections.error}
          onAgain={() => void collections.refetch()}
        />
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
              <Chosen key={current.id} collection={current} folderId={idIn(folderId)} />
            ) : (
              collections.data && <GoneState what="collection" />
            )}
          </section>
        </div>
      )}
    </main>
  );
}
