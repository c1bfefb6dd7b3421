import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

/*
 * WCAG 2.2, success criterion 1.4.6 (AAA): text stands out from its ground by 7:1 at least. Relative luminance
 * and contrast ratio as the recommendation defines them.
 */
const css = readFileSync(new URL('style.css', import.meta.url), 'utf8');

const channel = (c: number): number => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((i) => channel(parseInt(hex.slice(i, i + 2), 16) / 255));
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
}
function contrast(a: string, b: string): number {
  const [dark, light] = [luminance(a), luminance(b)].sort((x, y) => x - y);
  return (light! + 0.05) / (dark! + 0.05);
}

const coloursOf = (block: string): Record<string, string> =>
  Object.fromEntries(
    [...block.matchAll(/--color-([a-z-]+): (#[0-9a-f]{6})/g)].map((m) => [m[1], m[2]]),
  );
const [day, night] = css.split(":root[data-theme='night']").map(coloursOf);

describe('text', () => {
  it('by these definitions black on white is 21:1, and #767676 on white 4.54:1 (WCAG, Understanding 1.4.3)', () => {
    expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 5);
    expect(contrast('#767676', '#ffffff')).toBeCloseTo(4.54, 2);
  });

  it.each([
    ['day', day!],
    ['night', night!],
  ])('stands out by 7:1 from every ground, by %s', (_, colours) => {
    for (const text of ['ink', 'faint', 'ochre', 'rust', 'moss'])
      for (const ground of ['paper', 'sheet', 'amber-soft'])
        expect([text, ground, contrast(colours[text]!, colours[ground]!) >= 7]).toEqual([
          text,
          ground,
          true,
        ]);
    expect(contrast(colours['on-amber']!, colours.amber!)).toBeGreaterThanOrEqual(7);
  });
});
