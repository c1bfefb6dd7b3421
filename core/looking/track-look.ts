import type { Noticed, Settling } from './finding.ts';

/**
 * What the look at one track gives: what its own rules notice, and what the song's rules need to know of
 * it. Plain JSON, kept as long as all it depends on is the same (`LookedOn`).
 */
export interface TrackLook {
  /** By rule. */
  readonly findings: Readonly<Record<string, readonly Noticed[]>>;
  readonly events: number;
  readonly notes: number;
  /** Tick of the first note; 0 where there is none. */
  readonly firstNote: number;
  readonly lastEvent: number;
  readonly empty: boolean;
  readonly setsUp: string | null;
  readonly channels: ChannelUse;
  readonly timing: { readonly events: number; readonly again: number };
  readonly beside: BesideGrid | null;
  readonly astray: readonly Astray[];
  readonly windows: Windows;
  readonly line: LineSketch | null;
  readonly outside: Outside | null;
}

/** Notes that what plays the part cannot sound, and what of its kind could. */
export interface Outside {
  readonly noticed: Noticed;
  readonly give?: Settling;
}

/** Channels of a track, bit n for channel n (from 0). */
export interface ChannelUse {
  /** On which it sends anything. */
  readonly all: number;
  /** On which its notes are. */
  readonly played: number;
  /** That its programs, controllers, bends and pressure are for. */
  readonly setUp: number;
  /** The first program of each channel that has one. */
  readonly programs: Readonly<Record<number, number>>;
}

/** A group of notes that lies apart from the rest of its part; a slip if nobody else plays where it begins. */
export interface Astray {
  readonly tick: number;
  readonly noticed: Noticed;
}

/** Where a part's notes begin, in windows of four quarters: first and last of each row of windows. */
export type Windows = readonly (readonly [number, number])[];

/** How a part lies beside every grid: late or early by so many ticks throughout, or free. */
export type BesideGrid = { readonly ticks: number } | { readonly free: Noticed };

/** What of a part's line tells which others may double it, without its notes. */
export interface LineSketch {
  /** The same for lines that double each other, hardly ever for others. */
  readonly signature: string;
  /** Some of its notes, spread over the line, as hashes of their places without octaves. */
  readonly sample: readonly number[];
  /**
   * Bits of the places of all its notes, as hexadecimal digits: a bit that is not set says that it has no
   * note there (a Bloom filter of one hash). '' in songs of too many tracks.
   */
  readonly places: string;
  /** Its first pan and bend. */
  readonly pan: number;
  readonly bend: number;
}
