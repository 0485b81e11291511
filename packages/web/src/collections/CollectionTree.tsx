/** All collections as an outline, each below those it lies in; below them the tags. Things can be dropped on them. */
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useDroppable } from '@dnd-kit/core';
import { SimpleTreeView } from '@mui/x-tree-view/SimpleTreeView';
import { TreeItem } from '@mui/x-tree-view/TreeItem';
import type { CollectionView, TagView } from '@rellin/contract';
import { useActs, runKey } from '../acts/useActs';
import { useWorkspaceActions, type Item } from '../workspace/workspace';
import { CollectionPicture } from '../parts/Picture';
import { CollectionMark } from '../parts/CollectionMark';
import { TagLabel } from '../parts/TagLabel';

function Label({ item, path, open }: { item: Item; path: string; open?(): void }) {
  const { openMenu } = useWorkspaceActions();
  const { setNodeRef, isOver } = useDroppable({ id: `tree-${path}`, data: { kind: 'into', item, open } });
  if (item.type !== 'collection' && item.type !== 'tag') return null;
  const thing = item.type === 'collection' ? item.collection : item.tag;
  return (
    <span
      ref={setNodeRef}
      className={`tree-label${isOver ? ' over' : ''}`}
      onContextMenu={(event) => {
        event.preventDefault();
        openMenu(item, { x: event.clientX, y: event.clientY });
      }}
    >
      {item.type === 'collection' ? (
        <>
          <CollectionMark colour={thing.colour} type={item.collection.type} />
          <CollectionPicture picture={item.collection.picture} size={16} />
        </>
      ) : (
        <TagLabel tag={thing} />
      )}
      {item.type === 'collection' && <span className="cut">{thing.name}</span>}
      {item.type === 'tag' && <span className="push" />}
      <span className="count">{thing.count}</span>
    </span>
  );
}

/** Children by parent; what lies in none stands at the top. */
export function outline(collections: readonly CollectionView[]) {
  const known = new Set(collections.map((c) => c.id));
  const below = new Map<string, CollectionView[]>();
  const top: CollectionView[] = [];
  for (const c of collections) {
    const parents = c.parents.filter((p) => known.has(p));
    if (parents.length === 0) top.push(c);
    for (const p of parents) {
      const list = below.get(p);
      if (list) list.push(c);
      else below.set(p, [c]);
    }
  }
  return { top, below };
}

export function CollectionTree(props: {
  collections: readonly CollectionView[];
  tags: readonly TagView[];
  current: string | undefined;
}) {
  const navigate = useNavigate();
  const acts = useActs('collection');
  const [expanded, setExpanded] = useState<string[]>(() =>
    outline(props.collections)
      .top.slice(0, 30)
      .map((c) => `/${c.id}`),
  );
  /** The keys of the acts, before the tree takes letters for the beginnings of names. */
  const onKeyDown = (item: Item) => (event: React.KeyboardEvent & { defaultMuiPrevented?: boolean }) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.altKey || event.metaKey) return;
    const ran = runKey(acts(item), event.key);
    if (ran) {
      event.preventDefault();
      event.stopPropagation();
    }
    // single letters are commands here as in every list; typed quickly, they come by another way
    if (ran || event.key.length === 1) event.defaultMuiPrevented = true;
  };
  const { top, below } = useMemo(() => outline(props.collections), [props.collections]);
  // one collection may stand in several places, so that its place makes the item's id
  const branch = (c: CollectionView, above: string): React.ReactNode => {
    const path = `${above}/${c.id}`;
    return (
      <TreeItem
        key={path}
        itemId={path}
        label={
          <Label
            item={{ type: 'collection', collection: c }}
            path={path}
            open={() => setExpanded((now) => (now.includes(path) ? now : [...now, path]))}
          />
        }
        onKeyDown={onKeyDown({ type: 'collection', collection: c })}
      >
        {(below.get(c.id) ?? []).map((child) => branch(child, path))}
      </TreeItem>
    );
  };
  const selected = props.current ? `/${props.current}` : null;
  const open = (path: string | null) => {
    const id = path?.split('/').pop();
    if (id) void navigate(`/collections/${path!.startsWith('tag/') ? 'tag/' : ''}${id}`);
  };
  return (
    <div className="tree">
      <SimpleTreeView
        aria-label="Collections"
        selectedItems={selected}
        onSelectedItemsChange={(_, path) => open(path)}
        expandedItems={expanded}
        onExpandedItemsChange={(_, items) => setExpanded(items)}
      >
        {top.map((c) => branch(c, ''))}
      </SimpleTreeView>
      {props.tags.length > 0 && (
        <>
          <h2 className="small tree-head">Tags</h2>
          <SimpleTreeView
            aria-label="Tags"
            selectedItems={props.current ? `tag/${props.current}` : null}
            onSelectedItemsChange={(_, path) => open(path)}
          >
            {props.tags.map((tag) => (
              <TreeItem
                key={tag.id}
                itemId={`tag/${tag.id}`}
                label={<Label item={{ type: 'tag', tag }} path={`tag/${tag.id}`} />}
                onKeyDown={onKeyDown({ type: 'tag', tag })}
              />
            ))}
          </SimpleTreeView>
        </>
      )}
    </div>
  );
}
