/** Icons of the made-up programs: one plain drawing each, in the order of the programs. All drawn for the demo. */

export const INDEX_THEME = `[Icon Theme]
Name=Fallback
Comment=Icons of the demo's programs
Directories=scalable/apps

[scalable/apps]
Size=64
MinSize=16
MaxSize=512
Type=Scalable
Context=Applications
`;

/** Background and drawing, in a square of 64. */
const DRAWINGS: [string, string][] = [
  ['#2b6f86', '<path d="M8 40c8-12 16-12 24 0s16 12 24 0M8 28c8-12 16-12 24 0s16 12 24 0"/>'],
  ['#7a4b8c', '<path d="M10 32h6l4-14 8 30 8-38 7 26 4-4h7"/>'],
  ['#0b6652', '<circle cx="32" cy="32" r="15"/><path d="M32 17v6M47 32h-6"/>'],
  ['#8a6a1f', '<path d="M32 18v30M32 26c-12-14-22-6-18 6 2 8 12 8 18 2 6 6 16 6 18-2 4-12-6-20-18-6Z"/>'],
  ['#4a6b2d', '<path d="m12 18 13-5 14 6 13-5v32l-13 5-14-6-13 5ZM25 13v32M39 19v32"/>'],
  ['#96442f', '<path d="M14 14h36v36H14ZM20 22h24M20 30h10v14H20ZM36 30h8M36 37h8M36 44h8"/>'],
  ['#2f5d96', '<path d="M14 14h36v36H14ZM14 26h36M14 38h36M28 14v36"/>'],
  ['#44534b', '<path d="M14 50c4-18 14-32 36-38-2 18-14 30-30 32M14 50l12-14"/>'],
  ['#b0741a', '<path d="M12 16h40v32H12Z"/><circle cx="23" cy="26" r="4"/><path d="m14 46 14-14 8 8 6-6 9 10"/>'],
  ['#7d2f45', '<path d="M18 10h20l10 10v34H18ZM38 10v10h10M25 32h15M25 40h15"/>'],
  [
    '#52636f',
    '<circle cx="32" cy="32" r="8"/><path d="M32 12v8M32 44v8M12 32h8M44 32h8M18 18l6 6M40 40l6 6M46 18l-6 6M24 40l-6 6"/>',
  ],
  ['#2b7a78', '<path d="M32 8v34M32 12l16 6-16 6"/><circle cx="32" cy="48" r="7"/>'],
];

export function programIcon(index: number): string {
  const [back, drawing] = DRAWINGS[index % DRAWINGS.length]!;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 64 64" width="64" height="64"><rect width="64" height="64" rx="12" fill="${back}"/><g fill="none" stroke="#fff" stroke-width="3.2" stroke-linecap="round" stroke-linejoin="round">${drawing}</g></svg>\n`;
}
