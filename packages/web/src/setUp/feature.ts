/** What this room puts into the page. */
import type { Feature } from '../workspace/feature';

export const setUp: Feature = {
  commands: ({ navigate }) => [{ name: 'Set up again', run: () => void navigate('/set-up') }],
};
