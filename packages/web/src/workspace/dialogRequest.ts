/** What dialogs are asked for with; the features say what of. */

/**
 * By kind, what a dialog is opened with. A feature adds its own:
 *
 *     declare module '../workspace/dialogRequest' {
 *       interface DialogRequests {
 *         'new-board': { gathered?: Gathered };
 *       }
 *     }
 */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- filled by the features
export interface DialogRequests {}

export type DialogKind = keyof DialogRequests;

/** One that is open, or asked for. */
export type DialogRequest = { [K in DialogKind]: { kind: K } & DialogRequests[K] }[DialogKind];

/** What is asked for by one of these kinds. */
export type RequestOf<K extends DialogKind> = { [One in K]: { kind: One } & DialogRequests[One] }[K];
