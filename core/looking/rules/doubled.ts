import { percussionChannel } from '../../instruments/general-midi.ts';
import { on, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** Fewer notes than this are doubled by chance. */
const leastNotes = 8;

/** The part's notes as tick and key, in order. */
function line({ notes, track: { events } }: LookedTrack): { tick: number; key: number }[] {
  return Array.from({ length: notes.count }, (_, n) => ({ tick: events.atTick[notes.on[n]!]!, key: events.data1[notes.on[n]!]! })).sort((a, b) => a.tick - b.tick || a.key - b.key);
}

/** The interval by which `b` doubles `a` note for note, in semitones: 0 or whole octaves; undefined where it does not. */
function doubling(a: readonly { tick: number; key: number }[], b: readonly { tick: number; key: number }[]): number | undefined {
  if (a.length !== b.length) return undefined;
  const interval = b[0]!.key - a[0]!.key;
  if (interval % 12 !== 0) return undefined;
  return a.every((note, i) => b[i]!.tick === note.tick && b[i]!.key - note.key === interval) ? interval : undefined;
}

const plays = ({ track: { events } }: LookedTrack): number => (events.status.find((s) => s < 0xf0) ?? 0) & 15;

/** The same for lines that double each other, hardly ever for others: ticks, steps from the first key, and the first key's pitch class (FNV-1a, 32 bits). */
function signature(notes: readonly { tick: number; key: number }[]): string {
  const first = notes[0]!.key;
  let hash = 0x811c9dc5;
  const mix = (value: number): void => {
    hash = Math.imul(hash ^ (value & 0xffff), 0x01000193);
    hash = Math.imul(hash ^ Math.floor(value / 0x10000), 0x01000193);
  };
  for (const { tick, key } of notes) {
    mix(tick);
    mix(key - first + 128);
  }
  return `${notes.length} ${first % 12} ${hash >>> 0}`;
}

/** Parts are compared only where their signatures agree: songs of very many tracks cost no more than their notes. */
export function doubled({ parts }: LookedSong): Noticed[] {
  const bySignature = new Map<string, { part: LookedTrack; line: ReturnType<typeof line> }[]>();
  for (const part of parts) {
    if (part.notes.count < leastNotes || plays(part) === percussionChannel) continue;
    const own = { part, line: line(part) };
    const key = signature(own.line);
    const alike = bySignature.get(key);
    if (alike) alike.push(own);
    else bySignature.set(key, [own]);
  }
  return [...bySignature.values()].flatMap(([first, ...others]) =>
    others.flatMap((other): Noticed[] => {
      const interval = doubling(first!.line, other.line);
      return interval === undefined ? [] : [notice(first!.part, other.part, interval)];
    }),
  );
}

function notice(a: LookedTrack, b: LookedTrack, interval: number): Noticed {
  const octaves = Math.abs(interval) / 12;
  const where = interval === 0 ? 'at the unison' : `${octaves === 1 ? 'an octave' : `${octaves} octaves`} ${interval > 0 ? 'up' : 'down'}`;
  return {
    title: `${b.label} doubles ${a.label} ${where}`,
    why: interval === 0 ? 'The same notes twice only get louder, or beat against each other.' : 'A doubled octave is often left over from the sound it was played on.',
    tracks: [a.id, b.id], count: b.notes.count, sure: 'likely',
    settle: [{ title: `Remove ${b.label}`, operation: 'tracks.remove', settings: {}, scope: on(b.id) }, { title: `Remove ${a.label}`, operation: 'tracks.remove', settings: {}, scope: on(a.id) }],
  };
}
