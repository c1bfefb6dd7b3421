import { isEmpty } from '../edit/empty.ts';
import type { Noticed } from './finding.ts';
import { lineSketch } from './rules/doubled.ts';
import { lastEventOf } from './rules/late-end.ts';
import { besideGrid } from './rules/off-the-grid.ts';
import { whatItSets } from './rules/set-up-only.ts';
import { channelUse } from './rules/several-channels.ts';
import { outsideOf } from './rules/out-of-range.ts';
import { astrayIn, windowsOf } from './rules/strays.ts';
import { timingIn } from './rules/untidy-timing.ts';
import type { TrackLook } from './track-look.ts';
import type { LookedSong, LookedTrack } from './view.ts';

export interface TrackRule {
  readonly id: string;
  readonly look: (song: LookedSong) => Noticed[];
}

/** Looks at one track: `song` holds that track alone. */
export function lookAtTrack(
  rules: readonly TrackRule[],
  song: LookedSong,
  t: LookedTrack,
): TrackLook {
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
    outside: outsideOf(song, t),
    windows: windowsOf(t, song.quarter),
    line: lineSketch(song, t),
  };
}
