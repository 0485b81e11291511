/** The number of a place or an original in an address; undefined where none stands there. */
export const idIn = (text: string | null | undefined): number | undefined =>
  text && /^\d{1,16}$/.test(text) ? Number(text) : undefined;
