import type { PlaceView } from '@rellin/contract';
import { segmentsOf, shown } from '@rellin/core/paths';

/** An absolute path as its folders, from its place down; as it is where it lies in none. */
export function trailOf(path: string, places: readonly PlaceView[]): string {
  const place = places.find((p) => path === p.root || path.startsWith(`${p.root}/`));
  if (!place) return shown(path);
  return [place.name, ...segmentsOf(path.slice(place.root.length + 1)).map(shown)].join(' › ');
}
