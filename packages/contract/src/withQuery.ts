/**
 * A path with what narrows the question; what is undefined is left out.
 *
 * @example withQuery('/find', { q: 'tide table', limit: undefined }) // '/find?q=tide%20table'
 */
export function withQuery(path: string, query: object = {}): string {
  const parts = Object.entries(query).flatMap(([name, value]) =>
    value === undefined ? [] : [`${encodeURIComponent(name)}=${encodeURIComponent(String(value))}`],
  );
  return parts.length === 0 ? path : `${path}?${parts.join('&')}`;
}
