/** What is brought in step by itself: some aliases, or one publication with all that lies in it. */
export type Unit = { aliases: readonly string[] } | { publication: string };

/** Keys say whose link it is: "alias/ID", "publication/ID", and below that the way to the item. */
export const aliasKey = (id: string) => `alias/${id}`;
export const publicationKey = (id: string) => `publication/${id}`;

export function partsOf(key: string): { kind: 'alias' | 'publication'; id: string; way: string[] } {
  const [kind, id, ...way] = key.split('/');
  return { kind: kind as 'alias' | 'publication', id: id!, way };
}

/** The key of the alias or publication that a link is of. */
export const unitOf = (key: string) => key.split('/', 2).join('/');
