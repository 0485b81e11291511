/** The card: all about what is selected. */
import { useDesk } from '../frame/desk';
import { CollectionCard } from './CollectionCard';
import { OriginalCard } from './OriginalCard';
import { ProgramCard } from './ProgramCard';
import { ShortcutCard } from './ShortcutCard';
import './card.css';

export function Card() {
  const { selected } = useDesk();
  return (
    <aside className="card" aria-label="Card">
      {selected === undefined ? (
        <p className="small">Select something, and its card tells where it is, how far, and how often you open it.</p>
      ) : selected.type === 'shortcut' ? (
        <ShortcutCard key={selected.id} id={selected.id} />
      ) : selected.type === 'original' ? (
        <OriginalCard key={`${selected.placeId}/${selected.id}`} placeId={selected.placeId} id={selected.id} />
      ) : selected.type === 'collection' ? (
        <CollectionCard key={selected.id} id={selected.id} />
      ) : (
        <ProgramCard key={selected.id} id={selected.id} />
      )}
    </aside>
  );
}
