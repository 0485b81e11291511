/**
 * Contrast by WCAG 2.2, "contrast ratio" and "relative luminance": 4.5 for text, 3 for marks and the edges of controls.
 */
import { describe, expect, it } from '@jest/globals';
import { cssVariables, tokens, type Mode } from './tokens';

function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const c = parseInt(hex.slice(at, at + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

const TEXT_ON: [ink: string, grounds: string[]][] = [
  ['ink', ['paper', 'sheet', 'raised', 'spruceTint', 'saffronTint', 'brickTint', 'slateTint']],
  ['second', ['paper', 'sheet', 'raised', 'spruceTint']],
  ['third', ['paper', 'sheet', 'raised']],
  ['spruce', ['paper', 'sheet', 'raised', 'spruceTint']],
  ['saffron', ['paper', 'sheet', 'saffronTint']],
  ['brick', ['paper', 'sheet', 'brickTint']],
  ['slate', ['paper', 'sheet', 'slateTint']],
  ['heather', ['paper', 'sheet']],
  ['gorse', ['paper', 'sheet']],
  ['tide', ['paper', 'sheet']],
  ['peat', ['paper', 'sheet']],
  ['onSpruce', ['spruce']],
  ['onLabel', ['label']],
];

describe.each(Object.keys(tokens) as Mode[])('the colours, %s', (mode) => {
  const colour = tokens[mode] as Record<string, string>;
  it('the calculating itself: black on white is 21, equal colours are 1', () => {
    expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 5);
    expect(contrast('#123456', '#123456')).toBe(1);
  });
  it.each(TEXT_ON)('%s is legible on every ground it stands on', (ink, grounds) => {
    for (const ground of grounds) {
      const ratio = contrast(colour[ink]!, colour[ground]!);
      expect({ ground, enough: ratio >= 4.5, ratio: ratio.toFixed(2) }).toMatchObject({ enough: true });
    }
  });
  it('has a custom property for each', () => {
    const variables = cssVariables(mode);
    const [a, b, c] = ['--spruce-tint', '--on-label', '--paper'].map((name) => variables[name]);
    expect([a, b, c]).toEqual([colour['spruceTint'], colour['onLabel'], colour['paper']]);
    // no two of one name, and none of no colour
    expect(Object.values(variables).sort()).toEqual(Object.values(colour).sort());
    for (const [name, value] of Object.entries(variables)) {
      expect(name).toMatch(/^--[a-z]+(-[a-z]+)*$/);
      expect(value).toMatch(/^(#[0-9a-f]{6}([0-9a-f]{2})?|rgba?\()/i);
    }
  });
});
