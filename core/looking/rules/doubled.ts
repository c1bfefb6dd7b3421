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

export function doubled({ parts }: LookedSong): Noticed[] {
  const able = parts.filter((t) => t.notes.count >= leastNotes && plays(t) !== percussionChannel);
  const lines = new Map(able.map((t) => [t.id, line(t)]));
  const found: Noticed[] = [];
  const told = new Set<string>();
  able.forEach((a, i) => {
    for (const b of able.slice(i + 1)) {
      if (told.has(b.id)) continue;
      const interval = doubling(lines.get(a.id)!, lines.get(b.id)!);
      if (interval === undefined) continue;
      told.add(b.id);
      found.push(notice(a, b, interval));
    }
  });
  return found;
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
