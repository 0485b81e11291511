/** One partition of originals a place; its indexes are made after the first load, which is several times quicker. */
import type { PlaceId } from '@rellin/contract';

export const partitionName = (placeId: PlaceId) => `original_p${Number(placeId)}`;

export const ORIGINAL_COLUMNS =
  'place_id, id, parent_id, name, folded, type, kind, mime, size, mtime, birth, dev, inode, first_seen, came_from';

/** A free-standing table of the right shape, to be filled and then attached. */
export function createLoose(placeId: PlaceId): string {
  const name = partitionName(placeId);
  return `CREATE TABLE ${name} (LIKE original INCLUDING DEFAULTS,
    CONSTRAINT ${name}_place CHECK (place_id = ${Number(placeId)}))`;
}

/** Indexes, then attachment; the check constraint spares PostgreSQL a scan. */
export function indexAndAttach(placeId: PlaceId): string {
  const name = partitionName(placeId);
  return `
    ALTER TABLE ${name} ADD PRIMARY KEY (place_id, id);
    CREATE UNIQUE INDEX ${name}_name ON ${name} (parent_id, name);
    CREATE INDEX ${name}_inode ON ${name} (inode);
    ALTER TABLE original ATTACH PARTITION ${name} FOR VALUES IN (${Number(placeId)});
    ALTER TABLE ${name} DROP CONSTRAINT ${name}_place;`;
}

export function dropPartition(placeId: PlaceId): string {
  return `DROP TABLE IF EXISTS ${partitionName(placeId)}`;
}
