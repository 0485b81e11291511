/** The shape that somebody chose for a kind of list, remembered for all of that kind. */
import type { ListShape } from '@rellin/contract';
import { patch } from '../api/client';
import { useSettings } from '../api/queries';
import { useCommands } from '../workspace/useCommands';

export function useListShape(of: 'originals' | 'members'): [ListShape, (shape: ListShape) => void] {
  const shapes = useSettings().data?.listShapes ?? {};
  const d = useCommands();
  const choose = (shape: ListShape) =>
    void d.attempt(async () => {
      await patch('/settings', { listShapes: { ...shapes, [of]: shape } });
    });
  return [shapes[of] ?? 'table', choose];
}
