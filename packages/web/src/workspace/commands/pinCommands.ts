/** Pins on the strip. */
import type { PinId, PinTarget, PinView } from '@rellin/contract';
import { patch, post, remove } from '../../api/client';
import { reordered } from '../reordered';
import type { CommandTools } from '../useAttempt';

export const pinCommands = ({ attempt, done, client }: CommandTools) => ({
  pin: (target: PinTarget, targetId: string, name: string, slot?: number) =>
    attempt(async () => {
      const pins = await post('/pins', { target, targetId, ...(slot !== undefined && { slot }) });
      const at = pins.find((p) => p.targetId === targetId)?.slot;
      await done(`Pinned “${name}” as ${at}`);
    }),
  pinMany: (targetIds: string[]) =>
    attempt(async () => {
      await post('/pins/many', { targetIds });
      await done(`Pinned ${targetIds.length} shortcuts`);
    }),
  putPinAside: (pin: PinView, aside: boolean) =>
    attempt(async () => {
      await patch(`/pins/${pin.id}`, { aside });
      await done(aside ? `“${pin.name}” is in the menu at the end` : `“${pin.name}” is back on the strip`);
    }),
  keepPin: (pin: PinView, kept: boolean) =>
    attempt(async () => {
      await patch(`/pins/${pin.id}`, { kept });
      await done(kept ? `The pin “${pin.name}” stays where it is` : `The plan may move the pin “${pin.name}”`);
    }),
  movePin: (pin: PinView, slot: number) =>
    attempt(async () => {
      const before = client.getQueryData<PinView[]>(['pins']) ?? [];
      client.setQueryData(['pins'], reordered(before, pin.id, slot));
      try {
        await patch(`/pins/${pin.id}`, { slot });
      } catch (error) {
        client.setQueryData(['pins'], before);
        throw error;
      }
      await done(`Moved the pin “${pin.name}” to ${slot}`);
    }),
  unpin: (pinId: PinId, name: string) =>
    attempt(async () => {
      await remove(`/pins/${pinId}`);
      await done(`Unpinned “${name}”`);
    }),
});
