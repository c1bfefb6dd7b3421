import { barTick, meterAt, positionAt } from '../../timing/meter-map.ts';
import type { Noticed } from '../finding.ts';
import { removal } from '../removal.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** Fewer notes than this may be anything. */
const leastNotes = 16;
/** So many of the beats have a stroke, and so many of the strokes stand on a beat. */
const share = 0.95;
/** A player is not a clock: of the beat. */
const near = 1 / 16;
/** Bass drums on every beat are music (keys 35 and 36 of General MIDI's percussion, RP-003). */
const bassDrums: ReadonlySet<number> = new Set([35, 36]);

/** A part of one or two keys on every beat of the map: what players hear in their phones, seldom part of the music. */
export function clickPart(song: LookedSong): Noticed[] {
  if (song.song.division.kind === 'smpte') return [];
  return song.parts.flatMap((t): Noticed[] => {
    if (t.notes.count < leastNotes) return [];
    const keys = fewKeys(t);
    if (keys.size > 2 || [...keys].every((k) => bassDrums.has(k)) || !onEveryBeat(song, t))
      return [];
    return [
      {
        title: `${t.label} is a click: ${keys.size === 1 ? 'one key' : 'two keys'} on every beat`,
        why: 'It kept the players together. Sent along, it is heard in the mix or printed as a part of its own.',
        tracks: [t.id],
        count: t.notes.count,
        sure: 'possible',
        settle: [removal(t)],
      },
    ];
  });
}

/** The part's keys, or the first three of them. */
function fewKeys({ notes, track: { events } }: LookedTrack): Set<number> {
  const keys = new Set<number>();
  for (let n = 0; n < notes.count && keys.size < 3; n++) keys.add(events.data1[notes.on[n]!]!);
  return keys;
}

function onEveryBeat({ meters }: LookedSong, { notes, track: { events } }: LookedTrack): boolean {
  const strokes = Array.from(notes.on.subarray(0, notes.count), (row) => events.atTick[row]!).sort(
    (a, b) => a - b,
  );
  const [first, last] = [strokes[0]!, strokes.at(-1)!];
  const beats = new Set<number>();
  for (let bar = positionAt(meters, first).bar; barTick(meters, bar) <= last; bar++) {
    const from = barTick(meters, bar);
    const { beatTicks, barTicks } = meterAt(meters, from);
    if (barTicks / beatTicks > notes.count || beats.size > notes.count * 2) return false;
    for (
      let beat = from;
      beat < Math.min(from + barTicks, barTick(meters, bar + 1));
      beat += beatTicks
    )
      if (beat >= first - beatTicks * near && beat <= last + beatTicks * near) beats.add(beat);
  }
  const hit = new Set<number>();
  let on = 0;
  for (const tick of strokes) {
    const { bar } = positionAt(meters, tick);
    const { beatTicks } = meterAt(meters, tick);
    const beat =
      barTick(meters, bar) + Math.round((tick - barTick(meters, bar)) / beatTicks) * beatTicks;
    if (Math.abs(beat - tick) > beatTicks * near) continue;
    on++;
    hit.add(beat);
  }
  return on >= strokes.length * share && hit.size >= beats.size * share;
}
