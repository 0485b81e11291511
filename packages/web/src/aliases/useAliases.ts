/** Aliases, publications and links found on disk: what the page reads of them, and what it does with them. */
import { useMemo } from 'react';
import { useQuery } from '@tanstack/react-query';
import type { AliasView, FoundLinkView, OriginalRef, PublicationView, PublishRequest } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { get, post, remove } from '../api/client';
import { useCommands } from '../workspace/useCommands';

export const useAliases = () => useQuery({ queryKey: ['aliases', 'list'], queryFn: () => get('/aliases') });
export const usePublications = () =>
  useQuery({ queryKey: ['aliases', 'publications'], queryFn: () => get('/aliases/publications') });
export const useFoundLinks = () =>
  useQuery({ queryKey: ['aliases', 'found'], queryFn: () => get('/aliases/found'), staleTime: 30_000 });

export function useAliasActs() {
  const d = useCommands();
  return useMemo(() => {
    const { attempt, done } = d;
    /** What was asked is in the journal; whether the disk took it is another matter, and said. */
    const written = (now: { state: string; reason: string }, text: string) =>
      done(now.state === 'there' ? text : `${text}. ${now.reason}`);
    return {
      place: (shortcut: { id: string; name: string }, folder: string, name: string) =>
        attempt(async () => {
          const made = await post('/aliases', { shortcutId: shortcut.id, folder, ...(name && { name }) });
          await written(made, `Placed the alias ${shown(made.name)}`);
          return made;
        }),
      remove: (alias: AliasView) =>
        attempt(async () => {
          await remove(`/aliases/${alias.id}`);
          await done(`Deleted the alias ${shown(alias.name)}. Its shortcut and its original stay.`);
        }),
      publish: (request: PublishRequest) =>
        attempt(async () => {
          const made = await post('/aliases/publications', request);
          const links = made.links === 1 ? 'one link' : `${made.links} links`;
          await written(
            made,
            made.asMenu ? `“${made.name}” is a menu now` : `Published ${links} in ${shown(made.path!)}`,
          );
          return made;
        }),
      unpublish: (publication: PublicationView) =>
        attempt(async () => {
          await remove(`/aliases/publications/${publication.id}`);
          await done(`“${publication.name}” is published no more. Only links that Rellin wrote were removed.`);
        }),
      take: (link: FoundLinkView, to?: FoundLinkView['candidates'][0]) =>
        attempt(async () => {
          const one = ({ placeId, originalId }: OriginalRef) => ({ placeId, originalId });
          const made = await post('/aliases/take', { ...one(link), ...(to && { to: one(to) }) });
          await done(`${to ? 'Repaired' : 'Added to the catalogue'} the link ${shown(made.name)}`);
        }),
    };
  }, [d]);
}
