/** What is selected, as far as it is there: a shortcut, collection or search that is gone comes back with its undo. */
import { useCollections, useSearches, useShortcuts } from '../api/queries';
import { useStateFor } from './useStateFor';
import { useSelection, type Selected } from '../workspace/workspace';

export function useShownSelection(): Selected | undefined {
  const { selected } = useSelection();
  const shortcuts = useShortcuts().data;
  const collections = useCollections().data;
  const searches = useSearches().data;
  const lists = {
    shortcut: shortcuts,
    collection: collections,
    search: searches,
    original: undefined,
    program: undefined,
  };
  const list = selected && lists[selected.type];
  const isThere = list?.some((item) => item.id === selected?.id);
  // what was just made is selected before the list has it: only what was there can be gone
  const [wasThere, setWasThere] = useStateFor(selected && `${selected.type} ${selected.id}`, false);
  if (isThere && !wasThere) setWasThere(true);
  return wasThere && isThere === false ? undefined : selected;
}
