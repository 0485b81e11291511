/**
 * SQL that counts what came to a search's answer (or went from it) since an instant and is still so: what came and went
 * again is neither. `search` and `since` are SQL expressions of the surrounding query, never a person's text.
 */
export function netChanges(search: string, since: string, came: boolean): string {
  return `SELECT count(*) FROM (
    SELECT 1 FROM search_change x WHERE x.search_id = ${search} AND x.at > ${since}
    GROUP BY x.place_id, x.original_id
    HAVING (array_agg(x.came ORDER BY x.id))[1] = ${came} AND (array_agg(x.came ORDER BY x.id DESC))[1] = ${came}
  ) net`;
}
