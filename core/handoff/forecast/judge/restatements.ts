import { payloadOf } from '../../../smf/events.ts';
import type { Song } from '../../../song/song.ts';
import { kindOf, type EventKind } from '../../proof/reading/event-kind.ts';
import { outlineTrack } from '../../proof/reading/track-outline.ts';
import { metasIn } from './event-rows.ts';

interface Statement {
  readonly track: number;
  readonly row: number;
  readonly atTick: number;
  readonly bytes: Uint8Array;
}

/**
 * Finds the rows that repeat the tempo, meter or key in force: a file without them means the same. A meter
 * repeated inside a bar begins a bar there and is a change.
 */
export function findRestatements(song: Song): (track: number, row: number) => boolean {
  const rows = song.tracks.map(() => new Set<number>());
  for (const kind of ['tempo', 'meter', 'key signature'] as const) {
    let inForce: Statement | undefined;
    for (const statement of statementsOf(song, kind)) {
      const repeats =
        inForce !== undefined &&
        isSame(inForce.bytes, statement.bytes) &&
        (kind !== 'meter' || beginsBar(song, inForce, statement.atTick));
      if (repeats) rows[statement.track]!.add(statement.row);
      else inForce = statement;
    }
  }
  return (track, row) => rows[track]!.has(row);
}

function statementsOf(song: Song, kind: EventKind): Statement[] {
  return song.tracks
    .flatMap(({ events }, track) =>
      outlineTrack(events).saysOfSong
        ? metasIn(events)
            .filter((row) => kindOf(events, row) === kind)
            .map((row) => ({
              track,
              row,
              atTick: events.atTick[row]!,
              bytes: payloadOf(events, row),
            }))
        : [],
    )
    .sort((a, b) => a.atTick - b.atTick);
}

const isSame = (one: Uint8Array, other: Uint8Array): boolean =>
  one.length === other.length && one.every((byte, n) => byte === other[n]);

/** Whether a bar of a meter begins at a tick: numerator and power of two of its bytes (SMF 1.0). */
function beginsBar({ division }: Song, { atTick, bytes }: Statement, tick: number): boolean {
  if (division.kind !== 'ppq') return tick === atTick;
  const barTicks = (4 * division.ticksPerQuarter * bytes[0]!) / 2 ** bytes[1]!;
  return Number.isInteger((tick - atTick) / barTicks);
}
