/** Waiting for a place to be read. */
import type { PlaceId } from '@rellin/contract';
import { get } from '../api/client';

const READ_MS = 200;

/** Waits until a folder was read for the first time, or could not be. */
export async function readOnce(placeId: PlaceId): Promise<void> {
  for (;;) {
    const place = (await get('/places')).find((p) => p.id === placeId);
    if (place?.scan !== 'running') return;
    await new Promise((resolve) => setTimeout(resolve, READ_MS));
  }
}
