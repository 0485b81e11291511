/** The colours of the house, light and dark, under names of what they mean. Nothing else in the page names a colour. */
export const tokens = {
  light: {
    paper: '#eef2ef',
    sheet: '#ffffff',
    raised: '#f7f9f7',
    ink: '#14201b',
    second: '#44534b',
    third: '#55645c',
    line: '#d6ded9',
    faint: '#e6ebe8',
    spruce: '#0b6652',
    spruceTint: '#d9ebe3',
    onSpruce: '#ffffff',
    saffron: '#8f5600',
    saffronTint: '#fbe9c6',
    brick: '#a3301d',
    brickTint: '#f8ddd7',
    slate: '#52636f',
    slateTint: '#e0e7eb',
    heather: '#7a4a8c',
    gorse: '#7d6a00',
    tide: '#1c6384',
    peat: '#6b4a34',
    label: '#14201b',
    onLabel: '#f7f9f7',
  },
  dark: {
    paper: '#0f1512',
    sheet: '#171f1b',
    raised: '#1c2621',
    ink: '#e7efea',
    second: '#b0c0b7',
    third: '#93a59b',
    line: '#2c3832',
    faint: '#232e28',
    spruce: '#5fd0ae',
    spruceTint: '#163a2f',
    onSpruce: '#0f1512',
    saffron: '#f0b950',
    saffronTint: '#3a2c10',
    brick: '#f08d78',
    brickTint: '#40201a',
    slate: '#a9bccb',
    slateTint: '#24303a',
    heather: '#c79bdb',
    gorse: '#d8c552',
    tide: '#7fc1e3',
    peat: '#cba98f',
    label: '#e7efea',
    onLabel: '#14201b',
  },
} as const;

export type Mode = keyof typeof tokens;

/** Tokens as custom properties: `spruceTint` is `--spruce-tint`. */
export function cssVariables(mode: Mode): Record<string, string> {
  return Object.fromEntries(
    Object.entries(tokens[mode]).map(([name, value]) => [
      `--${name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)}`,
      value,
    ]),
  );
}
