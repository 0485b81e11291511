/** One cell of a board on screen; pixels. By itself, since the page's first script needs nothing else of boards. */
export const CELL = { width: 190, height: 48 } as const;
