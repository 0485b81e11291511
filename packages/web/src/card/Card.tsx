/** The card: all about what is selected. */
import { lazy, Suspense } from 'react';
import { ErrorBoundary } from '../parts/ErrorBoundary';
import { useShownSelection } from '../parts/useShownSelection';
import './card.css';

const OverviewCard = lazy(() => import('./OverviewCard').then((m) => ({ default: m.OverviewCard })));
const CollectionCard = lazy(() => import('./CollectionCard').then((m) => ({ default: m.CollectionCard })));
const OriginalCard = lazy(() => import('./OriginalCard').then((m) => ({ default: m.OriginalCard })));
const ProgramCard = lazy(() => import('./ProgramCard').then((m) => ({ default: m.ProgramCard })));
const ShortcutCard = lazy(() => import('./ShortcutCard').then((m) => ({ default: m.ShortcutCard })));
const SearchCard = lazy(() => import('../searches/SearchCard').then((m) => ({ default: m.SearchCard })));

export function Card() {
  const selected = useShownSelection();
  return (
    <aside className="card" aria-label="Card">
      <ErrorBoundary what="card" resetKey={selected && `${selected.type} ${selected.id}`}>
        <Suspense fallback={null}>
          {selected === undefined ? (
            <OverviewCard />
          ) : selected.type === 'shortcut' ? (
            <ShortcutCard key={selected.id} id={selected.id} />
          ) : selected.type === 'original' ? (
            <OriginalCard key={`${selected.placeId}/${selected.id}`} placeId={selected.placeId} id={selected.id} />
          ) : selected.type === 'collection' ? (
            <CollectionCard key={selected.id} id={selected.id} />
          ) : selected.type === 'search' ? (
            <SearchCard key={selected.id} id={selected.id} />
          ) : (
            <ProgramCard key={selected.id} id={selected.id} />
          )}
        </Suspense>
      </ErrorBoundary>
    </aside>
  );
}
