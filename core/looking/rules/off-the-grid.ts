import { percussionChannel } from '../../instruments/general-midi.ts';
import { counted } from '../../edit/rewrite.ts';
import { listed, onTracks, type Noticed } from '../finding.ts';
import type { BesideGrid } from '../track-look.ts';
import type { LookedSong, LookedTrack } from '../view.ts';
import { echoesIn } from './doubled.ts';

const leastNotes = 16;
/** Places on a circle that are told apart; a circle of fewer ticks has one for each. */
const mostPlaces = 4096;
/** Of a step: nearer than this nobody hears it. */
const leastOffset = 0.06;
/**
 * How much the beginnings agree, 0–1: above `leastSteady` they lie off by the same amount, below `ragged`
 * they follow no grid.
 */
const leastSteady = 0.93;
const ragged = 0.35;

/** What a hand is off by looks larger on a finer grid: its share of the agreement goes with the square of the steps. */
const steadyOn = (steps: number): number => leastSteady ** Math.max(1, (steps / 4) ** 2);

/** The grids that parts are played on, the plain ones first: steps to a quarter, and how they are drawn to. */
const grids = [
  { steps: 4, name: 'sixteenths', settings: {} },
  { steps: 3, name: 'triplets of eighths', settings: { grid: '1/8', feel: 'triplet' } },
  { steps: 6, name: 'sextuplets', settings: { grid: '1/16', feel: 'triplet' } },
  { steps: 8, name: 'thirty-seconds', settings: { grid: '1/32' } },
] as const;

/**
 * A part's beginnings of notes against the grids of the trade, by the mean direction on a circle whose
 * circumference is a step (circular statistics).
 */
export function besideGrid({ song, quarter }: LookedSong, t: LookedTrack): BesideGrid | null {
  if (song.division.kind === 'smpte' || t.notes.count < leastNotes) return null;
  const plain = agreement(t, quarter / 4);
  if (
    plain.length >= leastSteady &&
    Math.abs(Math.round((plain.angle / (2 * Math.PI)) * (quarter / 4))) <
      (quarter / 4) * leastOffset
  )
    return null;
  const found = grids.map((grid) => ({
    grid,
    step: quarter / grid.steps,
    ...(grid.steps === 4 ? plain : agreement(t, quarter / grid.steps)),
  }));
  const steady = found
    .filter(({ grid, length }) => length >= steadyOn(grid.steps))
    .map(({ angle, step }) => Math.round((angle / (2 * Math.PI)) * step));
  // What lies beside sixteenths may lie on thirty-seconds.
  if (steady.length > 0)
    return steady.every((away) => Math.abs(away) >= (quarter / 4) * leastOffset)
      ? { ticks: steady[0]! }
      : null;
  const best = found.reduce((a, b) => (b.length > a.length ? b : a));
  return best.length < ragged && !isDrums(t) && swingOf(t, quarter) === undefined
    ? { free: loose(t, best.grid) }
    : null;
}

export function offTheGrid(view: LookedSong): Noticed[] {
  const late = new Map<number, LookedTrack[]>();
  const free: Noticed[] = [];
  for (const t of view.parts) {
    const { beside } = t.look;
    if (beside && 'ticks' in beside) together(late, beside.ticks).push(t);
    else if (beside) free.push(beside.free);
  }
  const echoes = late.size === 0 ? new Set<string>() : echoesIn(view);
  return [
    ...[...late].flatMap(([ticks, all]) =>
      shifted(
        all.filter((t) => !echoes.has(t.id)),
        ticks,
      ),
    ),
    ...free,
  ];
}

/** The parts that lie off by so many ticks, to be added to. */
function together(late: Map<number, LookedTrack[]>, ticks: number): LookedTrack[] {
  const parts = late.get(ticks) ?? [];
  late.set(ticks, parts);
  return parts;
}

const isDrums = ({ track: { events } }: LookedTrack): boolean =>
  events.status.some((s) => s === (0x90 | percussionChannel));

/**
 * Mean of the notes' places on a circle whose circumference is a step: its angle (−π to π) and its length
 * (1: all alike).
 */
function agreement(
  { notes, track: { events } }: LookedTrack,
  step: number,
): { angle: number; length: number } {
  // Places are counted, and each is looked at once.
  const round =
    Number.isInteger(step) && step < mostPlaces ? step : Math.min(mostPlaces, Math.ceil(step) * 64);
  const times = new Uint32Array(round);
  for (let n = 0; n < notes.count; n++)
    times[Math.floor(((events.atTick[notes.on[n]!]! % step) / step) * round + 1e-6) % round]!++;
  let [x, y] = [0, 0];
  for (let place = 0; place < round; place++) {
    if (times[place] === 0) continue;
    const angle = (2 * Math.PI * place) / round;
    x += times[place]! * Math.cos(angle);
    y += times[place]! * Math.sin(angle);
  }
  return { angle: Math.atan2(y, x), length: Math.hypot(x, y) / notes.count };
}

/**
 * Eighths swung: nearly all notes stand on the beat or at one place behind its middle, of the beat from
 * here to there.
 */
const [nearBeat, earliestSwing, latestSwing, spreadOfSwing, swingShare] = [
  0.08, 0.52, 0.78, 0.06, 0.85,
];

/** Where in the beat the second of two swung eighths stands; undefined where the part does not swing. */
function swingOf({ notes, track: { events } }: LookedTrack, quarter: number): number | undefined {
  const places = Array.from(
    notes.on.subarray(0, notes.count),
    (row) => (events.atTick[row]! / quarter) % 1,
  );
  const second = places.filter((p) => p >= earliestSwing && p <= latestSwing).sort((a, b) => a - b);
  const middle = second[Math.floor(second.length / 2)];
  if (middle === undefined) return undefined;
  const there = places.filter(
    (p) => p <= nearBeat || p >= 1 - nearBeat || Math.abs(p - middle) <= spreadOfSwing,
  ).length;
  return there >= places.length * swingShare ? middle : undefined;
}

/** Parts that lie off by the same amount are told as one: they were late together. */
function shifted(parts: readonly LookedTrack[], ticks: number): Noticed[] {
  const [first] = parts;
  if (!first) return [];
  const way = ticks > 0 ? 'late' : 'early';
  const many = parts.length > 1;
  return [
    {
      title: `${many ? `${parts.length} parts are` : `All of ${first.label} is`} ${counted(Math.abs(ticks), 'tick')} ${way}${many ? `: ${listed(parts.map((t) => t.label))}` : ''}`,
      why: `${many ? 'Parts that are' : 'A part that is'} ${way} throughout ${many ? 'were' : 'was'} recorded over a delay, or bounced with one: ${many ? 'they lie beside the bar lines' : 'in another program it drags against the others'}.`,
      tracks: parts.map((t) => t.id),
      count: parts.reduce((n, t) => n + t.look.notes, 0),
      sure: 'likely',
      settle: [
        {
          title: `Move ${many ? 'them' : 'it'} ${counted(Math.abs(ticks), 'tick')} ${ticks > 0 ? 'earlier' : 'later'}`,
          operation: 'notes.nudge',
          settings: { ticks: -ticks },
          scope: onTracks(...parts.map((t) => t.id)),
        },
      ],
    },
  ];
}

function loose(t: LookedTrack, { name, settings }: (typeof grids)[number]): Noticed {
  return {
    title: `${t.label} follows no grid`,
    why: 'It was played freely, or without the click of this tempo: bars will not line up with the music until one follows the other.',
    tracks: [t.id],
    count: t.notes.count,
    sure: 'possible',
    settle: [
      {
        title: `Draw it half way to ${name}`,
        operation: 'notes.quantise',
        settings: { ...settings, strength: 50 },
        scope: onTracks(t.id),
      },
    ],
  };
}
