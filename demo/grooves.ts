import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import { writeSmf } from '#core/smf/write.ts';
import { endEvent, tempoEvent, text } from './lantern-ferry.ts';
import { ppq } from './score.ts';
import type { DemoFile } from './files.ts';

/** Drums of General MIDI by a letter each. */
const drums = {
  k: 36,
  s: 38,
  r: 37,
  h: 42,
  o: 46,
  c: 49,
  d: 51,
  t: 50,
  m: 47,
  f: 43,
  b: 76,
  w: 77,
} as const;
type Drum = keyof typeof drums;

/** How loud a sign is: from soft to an accent. */
const loudness: Readonly<Record<string, number>> = { '-': 38, x: 74, X: 98, '!': 116 };

interface Groove {
  readonly name: string;
  readonly bpm: number;
  /** Bars of sixteenths for each drum: a dot is a rest. Bars that are not written repeat the first. */
  readonly played: Partial<Record<Drum, readonly string[]>>;
  readonly bars: number;
}

interface Meter {
  readonly folder: string;
  readonly numerator: number;
  /** As a power of two: 2 for quarters, 3 for eighths. */
  readonly denominator: number;
  readonly grooves: readonly Groove[];
}

const four: readonly Groove[] = [
  {
    name: 'Quay walk groove',
    bpm: 92,
    bars: 2,
    played: {
      k: ['X.....x.X.......', 'X.....x...x.....'],
      s: ['....X.......X..-'],
      h: ['x.x.x.x.x.x.x.x.'],
    },
  },
  {
    name: 'Brass lamp groove',
    bpm: 108,
    bars: 2,
    played: {
      k: ['X...X...X...X...'],
      s: ['....X.......X...', '....X..-.-..X.-.'],
      h: ['..X...X...X...X.'],
      o: ['................', '..............x.'],
    },
  },
  {
    name: 'Slow tide groove',
    bpm: 68,
    bars: 2,
    played: {
      k: ['X.........x.....', 'X......x..x.....'],
      r: ['........X.......'],
      d: ['X...x...X...x.x.'],
    },
  },
  {
    name: 'Ferryman shuffle groove',
    bpm: 120,
    bars: 2,
    played: { k: ['X.....x.X.....x.'], s: ['....X..-....X..-'], d: ['X..xX..xX..xX..x'] },
  },
  {
    name: 'Gangway fill',
    bpm: 92,
    bars: 1,
    played: {
      s: ['X.xxX.xx........'],
      t: ['........XX......'],
      m: ['..........XX....'],
      f: ['............XXX!'],
    },
  },
  {
    name: 'Rope and pulley fill',
    bpm: 108,
    bars: 1,
    played: { k: ['X.......X.......'], s: ['....X-x-X-x-X-xX'], o: ['..............X.'] },
  },
  {
    name: 'Moored ending',
    bpm: 92,
    bars: 2,
    played: {
      k: ['X...X...X...x...', '!...............'],
      s: ['....X.......XXXX', '!...............'],
      c: ['................', '!...............'],
    },
  },
];

const three: readonly Groove[] = [
  {
    name: 'Paper moon groove',
    bpm: 126,
    bars: 2,
    played: { k: ['X...........'], r: ['....x...x...'], d: ['X...x.x.x...', 'X...x...x.x.'] },
  },
  {
    name: 'Lantern waltz groove',
    bpm: 144,
    bars: 2,
    played: { k: ['X...........', 'X.......x...'], s: ['....-...X...'], h: ['x.x.x.x.x.x.'] },
  },
  {
    name: 'Boathouse groove',
    bpm: 96,
    bars: 2,
    played: {
      k: ['X.....x.....'],
      s: ['....X.......', '....X...X...'],
      h: ['x.x.x.x.x.x.'],
      o: ['..........x.'],
    },
  },
  {
    name: 'Old pier brushes groove',
    bpm: 84,
    bars: 2,
    played: { k: ['X...........'], s: ['--x---x---x-'], d: ['X...x...x...'] },
  },
  {
    name: 'Turnstile fill',
    bpm: 126,
    bars: 1,
    played: { s: ['X.xxX.......'], t: ['......XX....'], m: ['........XX..'], f: ['..........X!'] },
  },
  {
    name: 'Half step fill',
    bpm: 144,
    bars: 1,
    played: { k: ['X.....X.....'], s: ['...X..-XX.XX'] },
  },
  {
    name: 'Last dance ending',
    bpm: 126,
    bars: 2,
    played: {
      k: ['X...x...x...', '!...........'],
      s: ['....X.X.X.XX', '............'],
      c: ['............', '!...........'],
    },
  },
];

const sixEight: readonly Groove[] = [
  {
    name: 'Rowing groove',
    bpm: 90,
    bars: 2,
    played: { k: ['X.........x.'], s: ['......X.....'], h: ['x.x.x.x.x.x.'] },
  },
  {
    name: 'Weir groove',
    bpm: 104,
    bars: 2,
    played: { k: ['X...x.......', 'X...x.....x.'], s: ['......X...-.'], d: ['X.x.x.X.x.x.'] },
  },
  {
    name: 'Reed pipe groove',
    bpm: 76,
    bars: 2,
    played: { k: ['X...........'], r: ['......X.....'], b: ['x...x.....x.'], w: ['..x.....x...'] },
  },
  {
    name: 'Mill wheel groove',
    bpm: 112,
    bars: 2,
    played: { k: ['X.....X.....'], s: ['....X.....X.'], o: ['..x.....x...'], h: ['x.....x.....'] },
  },
  {
    name: 'Overboard fill',
    bpm: 90,
    bars: 1,
    played: { s: ['X.xX.x......'], t: ['......X.X...'], f: ['..........XX'] },
  },
  {
    name: 'Splash fill',
    bpm: 104,
    bars: 1,
    played: { k: ['X.........X.'], s: ['--x-x-X-X-X!'] },
  },
  {
    name: 'Ashore ending',
    bpm: 90,
    bars: 2,
    played: {
      k: ['X.....x...x.', '!...........'],
      s: ['......X.X.XX', '............'],
      c: ['............', '!...........'],
    },
  },
];

const sevenEight: readonly Groove[] = [
  {
    name: 'Lantern market groove',
    bpm: 138,
    bars: 2,
    played: { k: ['X.......X.....'], s: ['....X.......X.'], h: ['x.x.x.x.x.x.x.'] },
  },
  {
    name: 'Two two three groove',
    bpm: 150,
    bars: 2,
    played: {
      k: ['X...X...X.....', 'X...X...X...x.'],
      s: ['..x...x.....X.'],
      d: ['X...x...X.x.x.'],
    },
  },
  {
    name: 'Squall groove',
    bpm: 160,
    bars: 2,
    played: { k: ['X.....X...X...'], s: ['....X.......X-'], h: ['X.x.X.x.X.x.x.'] },
  },
  {
    name: 'Spice stall groove',
    bpm: 124,
    bars: 2,
    played: {
      k: ['X.........x...'],
      b: ['x.x...x.x.....'],
      w: ['....x.....x.x.'],
      r: ['....X.......X.'],
    },
  },
  {
    name: 'Short change fill',
    bpm: 138,
    bars: 1,
    played: { s: ['X.xxX.xx......'], t: ['........XX....'], f: ['..........XXX!'] },
  },
  {
    name: 'Bargain fill',
    bpm: 150,
    bars: 1,
    played: { k: ['X...X...X.....'], s: ['..X...X...XXXX'], o: ['............X.'] },
  },
  {
    name: 'Shutters down ending',
    bpm: 138,
    bars: 2,
    played: {
      k: ['X...X...X...x.', '!.............'],
      s: ['....X...X.XXXX', '..............'],
      c: ['..............', '!.............'],
    },
  },
];

const meters: readonly Meter[] = [
  { folder: 'In four', numerator: 4, denominator: 2, grooves: four },
  { folder: 'In three', numerator: 3, denominator: 2, grooves: three },
  { folder: 'In six', numerator: 6, denominator: 3, grooves: sixEight },
  { folder: 'In seven', numerator: 7, denominator: 3, grooves: sevenEight },
];

const step = ppq / 4;

function grooveFile({ name, bpm, played, bars }: Groove, meter: Meter): Uint8Array {
  const barSteps = (meter.numerator * 16) / 2 ** meter.denominator;
  const notes: EventValue[] = [];
  for (const [drum, lines] of Object.entries(played) as [Drum, readonly string[]][])
    for (let bar = 0; bar < bars; bar++)
      [...(lines[bar] ?? lines[0]!)].forEach((sign, n) => {
        const velocity = loudness[sign];
        if (velocity === undefined) return;
        const tick = (bar * barSteps + n) * step;
        notes.push(
          channelEvent(tick, 0x99, drums[drum], velocity),
          channelEvent(tick + step - 1, 0x89, drums[drum], 64),
        );
      });
  return writeSmf({
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: ppq },
    headerExtra: new Uint8Array(0),
    tracks: [
      {
        events: eventsFrom([
          text(0, meta.trackName, name),
          tempoEvent(0, bpm),
          metaEvent(
            0,
            meta.timeSignature,
            Uint8Array.of(meter.numerator, meter.denominator, meter.denominator === 3 ? 12 : 24, 8),
          ),
          endEvent(bars * barSteps * step),
        ]),
      },
      {
        events: eventsFrom([
          text(0, meta.trackName, 'Kit'),
          channelEvent(0, 0xc9, 0),
          ...notes.sort((a, b) => a.atTick - b.atTick),
          endEvent(bars * barSteps * step),
        ]),
      },
    ],
    alienChunks: [],
  });
}

/** Grooves, fills and endings in four meters, by folder: what the shelf of the demo begins with. */
export const demoGrooves: readonly (Omit<DemoFile, 'says'> & { folder: string })[] = meters.flatMap(
  (meter) =>
    meter.grooves.map((groove) => ({
      folder: `Ferry kit/${meter.folder}`,
      name: `${groove.name}.mid`,
      bytes: () => grooveFile(groove, meter),
    })),
);
