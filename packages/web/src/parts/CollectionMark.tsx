/** The mark of a collection: a bracket round what it gathers, in its colour. Silent: its name stands beside it. */
import './CollectionMark.css';

export function CollectionMark({
  colour,
  type = 'plain',
}: {
  colour: string;
  type?: 'plain' | 'mirror' | 'working-set';
}) {
  return (
    <svg className="collection-mark" viewBox="0 0 18 16" width="18" height="16" aria-hidden data-colour={colour}>
      <path d="M6 2.5H3.5v11H6" />
      {type === 'mirror' ? (
        <path d="M9 3v10M12 5.5h3M12 8h3M12 10.5h3" />
      ) : (
        <>
          <circle cx="9" cy="4.5" r="1.5" />
          <circle cx="9" cy="11.5" r="1.5" />
          <circle cx="14" cy="8" r="1.5" className={type === 'working-set' ? 'open' : ''} />
        </>
      )}
    </svg>
  );
}

/** The mark of a saved search: a ring that closes round what it finds. Silent as well. */
export function SearchMark({ colour }: { colour: string }) {
  return (
    <svg className="collection-mark" viewBox="0 0 18 16" width="18" height="16" aria-hidden data-colour={colour}>
      <path d="M13.6 5.2A6 6 0 1 0 14.9 8" />
      <circle cx="9" cy="8" r="1.5" />
      <circle cx="15" cy="4" r="1.5" />
    </svg>
  );
}

/** The mark of a board: things on a plane, each where it was put. Silent as well. */
export function BoardMark() {
  return (
    <svg className="collection-mark" viewBox="0 0 18 16" width="18" height="16" aria-hidden>
      <path d="M2 3h14M2 13h14" />
      <circle cx="5" cy="6.5" r="1.5" />
      <circle cx="11" cy="9.5" r="1.5" />
      <circle cx="14.5" cy="6.5" r="1.5" />
    </svg>
  );
}
