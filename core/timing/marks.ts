import { meta } from '../smf/events.ts';

export const markKinds = {
  marker: meta.marker,
  'cue point': meta.cuePoint,
  text: meta.text,
} as const;
export type MarkKind = keyof typeof markKinds;

/** What a mark belongs to: bars, with which it moves, or time. */
export const anchors = ['bars', 'time'] as const;
export type Anchor = (typeof anchors)[number];

export interface Mark {
  readonly atTick: number;
  /** On one line, as it is shown. */
  readonly text: string;
  /** With its blanks and lines, where it has such at its ends or in it. */
  readonly whole?: string;
  readonly kind: MarkKind;
  /** Id of the track it stands in. */
  readonly track: string;
  /** It is sent; else it is kept here only. */
  readonly travels: boolean;
  /** Where it belongs to time and not to its bar: seconds from the song's beginning, as exact as they were said. */
  readonly seconds?: number;
}
