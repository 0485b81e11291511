export { decide, sameContent, FULL_FINGERPRINT } from './decide.js';
export type { Candidate, Decision, Evidence, Identity, Observation, Sight } from './identity.js';

/** States of a shortcut as they are kept and shown. */
export const SHORTCUT_STATES = ['ready', 'followed', 'away', 'unsure', 'lost', 'no-access', 'saved-over'] as const;
export type ShortcutState = (typeof SHORTCUT_STATES)[number];
