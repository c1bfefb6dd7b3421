import type { Mark } from './marks.ts';

/** A named span of the song, its end not included. */
export interface Section {
  readonly name: string;
  readonly fromTick: number;
  readonly toTick: number;
  readonly travels: boolean;
  /** The markers that say it in the file. */
  readonly marks: readonly [from: Mark, to: Mark];
}

/**
 * Text of the marker that ends a section; the one that begins it is its plain name. Others read both as
 * ordinary markers.
 */
export const endText = (name: string): string => `${name} (end)`;

/**
 * Sections that markers in tick order say, and the markers that are none. An end belongs to the nearest
 * marker of its name before it that has no end yet. On one tick ends come first, so a section is never
 * empty.
 */
export function pairSections(markers: readonly Mark[]): { sections: Section[]; rest: Mark[] } {
  const open = new Map<string, Mark[]>();
  const sections: Section[] = [];
  const paired = new Set<Mark>();
  const isEnd = ({ text }: Mark): boolean => text.endsWith(' (end)') && text.length > 6;
  const inOrder = [...markers].sort(
    (a, b) => a.atTick - b.atTick || Number(isEnd(b)) - Number(isEnd(a)),
  );
  for (const mark of inOrder) {
    const name = isEnd(mark) ? mark.text.slice(0, -6) : undefined;
    const waiting = open.get(name ?? mark.text) ?? [];
    const from = name === undefined ? undefined : waiting.at(-1);
    if (from && from.atTick < mark.atTick) {
      waiting.pop();
      sections.push({
        name: name!,
        fromTick: from.atTick,
        toTick: mark.atTick,
        travels: from.travels && mark.travels,
        marks: [from, mark],
      });
      paired.add(from).add(mark);
    } else if (name === undefined) {
      waiting.push(mark);
      open.set(mark.text, waiting);
    }
  }
  sections.sort((a, b) => a.fromTick - b.fromTick || b.toTick - a.toTick);
  return { sections, rest: markers.filter((m) => !paired.has(m)) };
}
