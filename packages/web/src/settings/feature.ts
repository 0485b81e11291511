/** What this room puts into the page. */
import type { Feature } from '../workspace/feature';
import { SECTIONS } from './sections';

export const settings: Feature = {
  commands: ({ navigate }) =>
    SECTIONS.map((s) => ({ name: `Settings: ${s.title}`, run: () => void navigate(`/settings#${s.id}`) })),
};
