/** Where what is shown is published, in one line; nothing where it is not. */
import { Link } from 'react-router';
import type { PublicationSource } from '@rellin/contract';
import { nameOf, parentOf, shown } from '@rellin/core/paths';
import { usePlaces } from '../api/queries';
import { trailOf } from '../parts/trailOf';
import { usePublications } from './useAliases';

export function PublishedLine({ source, id }: { source: PublicationSource; id: string }) {
  const published = (usePublications().data ?? []).filter((p) => p.source === source && p.sourceId === id);
  const places = usePlaces().data ?? [];
  if (published.length === 0) return null;
  const where = published.map((p) =>
    p.path === null
      ? 'as a menu of the desktop'
      : `as “${shown(nameOf(p.path))}” in ${trailOf(parentOf(p.path), places)}`,
  );
  return (
    <p className="small">
      Published {where.join(', and ')} · <Link to="/check-up?show=links">Links on disk</Link>
    </p>
  );
}
