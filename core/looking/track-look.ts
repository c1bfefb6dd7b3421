import { isEmpty } from '../operations/shared/empty.ts';
import type { Noticed } from './finding.ts';
import { lineSketch, type LineSketch } from './rules/doubled.ts';
import { lastEventOf } from './rules/late-end.ts';
import { besideGrid, type BesideGrid } from './rules/off-the-grid.ts';
import { whatItSets } from './rules/set-up-only.ts';
import { channelUse, type ChannelUse } from './rules/several-channels.ts';
import { astrayIn, windowsOf, type Astray, type Windows } from './rules/strays.ts';
import { timingIn } from './rules/untidy-timing.ts';
import type { LookedSong, LookedTrack } from './view.ts';

/** What the look at one track gives: what its own rules notice, and what the song's rules need to know of it. Plain JSON, kept as long as all it depends on is the same (`LookedOn`). */
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
}

export interface TrackRule {
  readonly id: string;
  readonly look: (song: LookedSong) => Noticed[];
}

/** Looks at one track: `song` holds that track alone. */
export function lookAtTrack(rules: readonly TrackRule[], song: LookedSong, t: LookedTrack): TrackLook {
  const { events } = t.track;
  const findings: Record<string, readonly Noticed[]> = {};
  for (const { id, look } of rules) {
    const noticed = look(song);
    if (noticed.length > 0) findings[id] = noticed;
  }
  return {
    findings,
    events: events.count,
    notes: t.notes.count,
    firstNote: t.notes.count > 0 ? events.atTick[t.notes.on[0]!]! : 0,
    lastEvent: lastEventOf(events),
    empty: isEmpty(events),
    setsUp: whatItSets(events),
    channels: channelUse(t),
    timing: timingIn(events),
    beside: besideGrid(song, t),
    astray: astrayIn(song, t),
    windows: windowsOf(t, song.quarter),
    line: lineSketch(song, t),
  };
}
