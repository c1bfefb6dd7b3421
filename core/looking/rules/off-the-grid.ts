import { percussionChannel } from '../../instruments/general-midi.ts';
import { on, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

const leastNotes = 16;
/** Of a sixteenth: nearer than this nobody hears it. */
const leastOffset = 0.06;
/** How much the beginnings agree, 0–1: above `steady` they lie off by the same amount, below `ragged` they follow no grid. */
const steady = 0.93;
const ragged = 0.35;

/** Beginnings of notes against sixteenths and against triplets of eighths, by the mean direction on a circle (circular statistics). */
export function offTheGrid(song: LookedSong): Noticed[] {
  if (song.song.division.kind === 'smpte') return [];
  return song.parts.flatMap((t): Noticed[] => {
    if (t.notes.count < leastNotes) return [];
    const straight = agreement(t, song.quarter / 4);
    const triplets = agreement(t, song.quarter / 3);
    const ticks = Math.round((straight.angle / (2 * Math.PI)) * (song.quarter / 4));
    if (straight.length >= steady && Math.abs(ticks) >= (song.quarter / 4) * leastOffset) return [shifted(t, ticks)];
    if (straight.length < ragged && triplets.length < ragged && !isDrums(t)) return [loose(t)];
    return [];
  });
}

const isDrums = ({ track: { events } }: LookedTrack): boolean => events.status.some((s) => s === (0x90 | percussionChannel));

/** Mean of the notes' places on a circle whose circumference is a step: its angle (−π to π) and its length (1: all alike). */
function agreement({ notes, track: { events } }: LookedTrack, step: number): { angle: number; length: number } {
  let x = 0;
  let y = 0;
  for (let n = 0; n < notes.count; n++) {
    const angle = (2 * Math.PI * events.atTick[notes.on[n]!]!) / step;
    x += Math.cos(angle);
    y += Math.sin(angle);
  }
  return { angle: Math.atan2(y, x), length: Math.hypot(x, y) / notes.count };
}

function shifted(t: LookedTrack, ticks: number): Noticed {
  const way = ticks > 0 ? 'late' : 'early';
  return {
    title: `All of ${t.label} is ${Math.abs(ticks)} ticks ${way}`,
    why: `A part that is ${way} throughout was recorded over a delay, or bounced with one: in another program it drags against the others.`,
    tracks: [t.id], count: t.notes.count, sure: 'likely',
    settle: [{ title: `Move it ${Math.abs(ticks)} ticks ${ticks > 0 ? 'earlier' : 'later'}`, operation: 'notes.nudge', settings: { ticks: -ticks }, scope: on(t.id) }],
  };
}

function loose(t: LookedTrack): Noticed {
  return {
    title: `${t.label} follows no grid`,
    why: 'It was played freely, or without the click of this tempo: bars will not line up with the music until one follows the other.',
    tracks: [t.id], count: t.notes.count, sure: 'possible',
    settle: [{ title: 'Draw it half way to sixteenths', operation: 'notes.quantise', settings: { strength: 50 }, scope: on(t.id) }],
  };
}
