import { ok, refused, type Result } from '../problems/problems.ts';
import { bridged } from '../smf/bridges.ts';
import { trackLabel, withEvents, type Song, type Track } from './song.ts';

/** What was bridged in a track of a song, for reports and slips. */
export interface BridgedTrack {
  readonly track: Track;
  readonly name: string;
  readonly bridges: number;
}

/**
 * The song with the gaps of its tracks bridged, see `bridges.ts`, leaving alone those that `known` has;
 * tracks that are right are the same objects. Names what cannot be held: ticks that are not exact, gaps
 * without measure.
 */
export function bridgedSong(
  song: Song,
  known: ReadonlySet<Track> = new Set(),
): Result<{ song: Song; bridges: readonly BridgedTrack[] }> {
  const bridges: BridgedTrack[] = [];
  const tracks: Track[] = [];
  for (const [place, track] of song.tracks.entries()) {
    if (known.has(track)) {
      tracks.push(track);
      continue;
    }
    const made = bridged(track.events);
    if (typeof made === 'string')
      return refused({
        code: made === 'too far' ? 'tick-too-far' : 'gap-too-long',
        where: { track: place + 1 },
        name: trackLabel(song, track),
      });
    tracks.push(made.events === track.events ? track : withEvents(track, made.events));
    if (made.bridges > 0)
      bridges.push({ track, name: trackLabel(song, track), bridges: made.bridges });
  }
  return ok({
    song: tracks.every((t, i) => t === song.tracks[i]) ? song : { ...song, tracks },
    bridges,
  });
}

/** "3 empty events bridge …", the one sentence that reports and slips say of it. */
export const bridgeWords = (n: number): string =>
  `waits longer than a file can say at once: bridged by ${n === 1 ? 'an event that says' : `${n.toLocaleString('en')} events that say`} nothing`;
