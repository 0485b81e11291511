/** The shape that somebody chose for a kind of list, remembered for all of that kind. */
import type { SettingsView } from '@rellin/contract';
import { patch } from '../api/client';
import { useSettings } from '../api/queries';
import { useCommands } from '../workspace/useCommands';

type Lists = keyof SettingsView['listShapes'];
type ShapeOf<L extends Lists> = NonNullable<SettingsView['listShapes'][L]>;

export function useListShape<L extends Lists>(of: L): [ShapeOf<L> | 'table', (shape: ShapeOf<L>) => void] {
  const shapes = useSettings().data?.listShapes ?? {};
  const d = useCommands();
  const choose = (shape: ShapeOf<L>) =>
    void d.attempt(async () => {
      await patch('/settings', { listShapes: { ...shapes, [of]: shape } });
    });
  return [shapes[of] ?? 'table', choose];
}
