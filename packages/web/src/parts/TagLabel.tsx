import type { TagView } from '@rellin/contract';
import './TagLabel.css';

type Shown = Pick<TagView, 'name' | 'colour'>;

/** What makes any element look like a tag: a short ruled label, its colour a bar at the left edge. */
export const tagProps = ({ name, colour }: Shown) => ({ className: 'tag-label', 'data-colour': colour, title: name });

export function TagLabel({ tag }: { tag: Shown }) {
  return <span {...tagProps(tag)}>{tag.name}</span>;
}

/** The first few tags of a row, and how many more there are. */
export function TagLabels({ tags, most = 2 }: { tags: readonly (Shown & { id: string })[]; most?: number }) {
  const rest = tags.slice(most);
  return (
    <>
      {tags.slice(0, most).map((tag) => (
        <TagLabel key={tag.id} tag={tag} />
      ))}
      {rest.length > 0 && (
        <span className="small" title={rest.map((t) => t.name).join(', ')}>
          {' '}
          +{rest.length}
        </span>
      )}
    </>
  );
}

/** A colour of the palette by itself. */
export function ColourBar({ colour }: { colour: string }) {
  return <span className="colour-bar" data-colour={colour} aria-hidden />;
}
