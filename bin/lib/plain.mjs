/**
 * Names as a terminal may be shown them. A file's name can hold anything, and a terminal takes some of it for commands
 * (ECMA-48): control characters, and those that turn the direction of writing, are spelt out.
 */
const UNSAFE = /[\u0000-\u001f\u007f-\u009f\u200e\u200f\u2028\u2029\u202a-\u202e\u2066-\u2069]/g;

/** One line of text; a tab stays, as what parts columns. */
export const plain = (text) => text.replace(UNSAFE, (c) => (c === '\t' ? c : spelt(c)));

/** JSON stays the same value: its own escapes do for all of these. */
export const plainJson = (value) => JSON.stringify(value).replace(UNSAFE, spelt);

const spelt = (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`;
