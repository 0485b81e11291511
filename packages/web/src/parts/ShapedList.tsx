/**
 * One list in the shape that somebody chose for it: a table, tiles in three sizes, names in as many columns as fit, or
 * the names beside one large preview of the one in hand. Acts, keys and selection are those of the table in every
 * shape.
 */
import type { ReactNode } from 'react';
import type { FolderShape, ListShape } from '@rellin/contract';
import { ChoiceChip } from './ChoiceChip';
import { Grid, type GridProps } from './Grid';
import { Picture, type Pictured } from './Picture';
import { Tiles } from './Tiles';
import './ShapedList.css';

type TileShape = Exclude<ListShape, 'table' | 'preview'>;

const SIZES: Record<TileShape, { width: number; height: number; picture: number }> = {
  'small-tiles': { width: 168, height: 56, picture: 32 },
  'medium-tiles': { width: 140, height: 132, picture: 56 },
  'large-tiles': { width: 216, height: 216, picture: 128 },
  compact: { width: 190, height: 30, picture: 18 },
};

export function ShapeChip<S extends FolderShape>({
  shape,
  words,
  onShape,
}: {
  shape: S;
  words: Record<S, string>;
  onShape(shape: S): void;
}) {
  return (
    <ChoiceChip
      label="Shown as"
      value={shape}
      options={(Object.keys(words) as S[]).map((value) => ({ value, label: words[value] }))}
      onChange={onShape}
    />
  );
}

interface ShapedListProps<T, K extends string | number> extends GridProps<T, K> {
  shape: ListShape;
  nameOf(item: T): string;
  /** What a tile shows as its picture. */
  pictureOf(item: T): Pictured;
  /** A short line below the name of a larger tile. */
  factsOf(item: T): ReactNode;
  /** Puts around what is drawn of an item what makes it draggable. */
  dragged(item: T, content: ReactNode): ReactNode;
  /** The one in hand, as large as there is room; nothing where it cannot be shown. */
  preview(item: T | undefined): ReactNode;
}

export function ShapedList<T, K extends string | number = string>(props: ShapedListProps<T, K>) {
  const { shape, pictureOf, factsOf, dragged, preview, ...list } = props;
  if (shape === 'table') return <Grid {...list} />;
  if (shape === 'preview') return <WithPreview {...list} preview={preview} />;
  const { width, height, picture } = SIZES[shape];
  return (
    <Tiles
      {...list}
      tile={{ width, height }}
      gap={shape === 'compact' ? 4 : 10}
      nameOf={props.nameOf}
      content={(item) =>
        dragged(
          item,
          <span className={`shaped-tile ${shape}`}>
            <Picture of={pictureOf(item)} size={picture} />
            <span className="tile-name" title={props.nameOf(item)}>
              {props.nameOf(item)}
            </span>
            {(shape === 'medium-tiles' || shape === 'large-tiles') && <span className="small">{factsOf(item)}</span>}
          </span>,
        )
      }
    />
  );
}

/** Names on the left, the one in hand on the right. */
function WithPreview<T, K extends string | number>({
  preview,
  ...list
}: GridProps<T, K> & { preview(item: T | undefined): ReactNode }) {
  const [name] = list.columns;
  let current: T | undefined;
  for (let i = 0; i < list.count && current === undefined; i++) {
    const item = list.item(i);
    if (item !== undefined && list.keyOf(item) === list.selectedKey) current = item;
  }
  return (
    <div className="with-preview">
      <Grid {...list} columns={[{ ...name!, width: 'minmax(0, 1fr)' }]} widths={undefined} onResize={undefined} />
      <section className="preview-side sheet" aria-label="Preview">
        {current === undefined ? <p className="small">Select something, and it is shown here.</p> : preview(current)}
      </section>
    </div>
  );
}
