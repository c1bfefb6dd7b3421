import { ppq, sections, type Section } from './score.ts';
import { chordOf, dice, keyOf, leadVoices, nearestTone, type Chord, type Note } from './theory.ts';

/** One bar as the arranger sees it. */
export interface BarPlan {
  readonly bar: number;
  readonly atTick: number;
  readonly lengthTicks: number;
  readonly section: Section;
  /** Bar within its section, from 0. */
  readonly index: number;
  readonly chord: Chord;
}

export function barPlans(): BarPlan[] {
  const plans: BarPlan[] = [];
  let atTick = 0;
  for (const section of sections) {
    const lengthTicks = (ppq * 4 * section.meter[0]) / section.meter[1];
    for (let index = 0; index < section.bars; index++) {
      plans.push({
        bar: plans.length + 1,
        atTick,
        lengthTicks,
        section,
        index,
        chord: chordOf(section.chords[index % section.chords.length]!),
      });
      atTick += lengthTicks;
    }
  }
  return plans;
}

/** Loudness of a beat: the section's level, an arch over eight bars, a little weight on the first beat. */
function loudness(plan: BarPlan, offsetTicks: number, chance: () => number): number {
  const arch = Math.sin((Math.PI * ((plan.index % 8) + offsetTicks / plan.lengthTicks)) / 8);
  const weight = offsetTicks === 0 ? 7 : offsetTicks % ppq === 0 ? 3 : 0;
  return Math.round(
    Math.min(118, 30 + plan.section.level * 62 + arch * 12 + weight + chance() * 7),
  );
}

type Player = (plans: readonly BarPlan[], chance: () => number) => Note[];

/** The tune of every bar, as notes in its section's units. */
export function tuneNotes(plan: BarPlan, chance: () => number, velocity = 0): Note[] {
  const { tune, unit } = plan.section;
  let at = 0;
  const notes: Note[] = [];
  for (const word of tune[plan.index % tune.length]!.split(' ')) {
    const [name, length] = word.split(':') as [string, string];
    const ticks = Number(length) * unit;
    if (name !== 'r')
      notes.push({
        atTick: plan.atTick + at,
        lengthTicks: Math.round(ticks * 0.94),
        key: keyOf(name),
        velocity: loudness(plan, at, chance) + velocity,
      });
    at += ticks;
  }
  return notes;
}

const only =
  (moods: string, play: (plan: BarPlan, chance: () => number) => Note[]): Player =>
  (plans, chance) =>
    plans.filter((p) => moods.includes(p.section.mood)).flatMap((p) => play(p, chance));

/** Offsets in eighths from a pattern such as "x..x..x." */
const hits = (pattern: string, sign = 'x'): number[] =>
  [...pattern].flatMap((c, i) => (c === sign ? [i] : []));

const groove: Readonly<
  Record<Section['mood'], readonly [low: string, high: string, shaker: string]>
> = {
  mist: ['', '', ''],
  song: ['x...x..x', '..x...x.', '.x.x.x.x'],
  dance: ['x...x..', '..x..xx', 'xxxxxxx'],
  waltz: ['x.....', '..x.x.', '......'],
  storm: ['x.x.xx.', '.x.x..x', 'xxxxxxx'],
  home: ['x...x...', '......x.', '..x...x.'],
};

const drums: Player = only('song dance waltz storm home', (plan, chance) => {
  const [low, high, shaker] = groove[plan.section.mood];
  const strike = (pattern: string, key: number, less: number): Note[] =>
    hits(pattern).map((eighth) => ({
      atTick: plan.atTick + eighth * 240,
      lengthTicks: 110,
      key,
      velocity: Math.max(20, loudness(plan, eighth * 240, chance) - less),
    }));
  const last = plan.section.mood === 'home' && plan.index > 15;
  const fill =
    plan.index % 8 === 7 ? strike(plan.section.meter[1] === 8 ? '....xxx' : '.....xxx', 60, 4) : [];
  return last
    ? []
    : [...strike(low, 64, 2), ...strike(high, 62, 10), ...strike(shaker, 70, 26), ...fill];
});

/** The string trio and the accordion's right hand move together, each voice as little as it can. */
function voicings(
  plans: readonly BarPlan[],
  start: readonly number[],
  ranges: readonly (readonly [number, number])[],
): number[][] {
  let before = [...start];
  return plans.map((p) => (before = leadVoices(before, p.chord, ranges)));
}

const trioRanges = [
  [62, 84],
  [55, 74],
  [43, 62],
] as const;
const trio =
  (voice: number): Player =>
  (plans, chance) => {
    const keys = voicings(plans, [74, 65, 50], trioRanges);
    return plans.flatMap((p, i) => bowed(p, keys[i]![voice]!, chance));
  };

function bowed(plan: BarPlan, key: number, chance: () => number): Note[] {
  const { atTick, lengthTicks, section } = plan;
  const velocity = (at: number): number => loudness(plan, at, chance) - 12;
  if (section.mood === 'dance' && plan.index % 8 < 4) return [];
  if (section.mood === 'waltz')
    return [480, 960].map((at) => ({
      atTick: atTick + at,
      lengthTicks: 300,
      key,
      velocity: velocity(at),
    }));
  if (section.mood === 'storm')
    return hits('xxxxxxxxxxxxxx').map((n) => ({
      atTick: atTick + n * 120,
      lengthTicks: 100,
      key,
      velocity: velocity(n * 120) - (n % 2) * 8,
    }));
  return [{ atTick, lengthTicks: lengthTicks - 20, key, velocity: velocity(0) }];
}

const accordion: Player = (plans, chance) => {
  const keys = voicings(
    plans,
    [69, 65, 62],
    [
      [60, 79],
      [55, 74],
      [50, 70],
    ],
  );
  const pattern: Partial<Record<Section['mood'], string>> = {
    song: '..x...x.',
    dance: '..x.x.x',
    waltz: '..x.x.',
    home: 'x...x...',
  };
  return plans.flatMap((p, i) => {
    const beats = pattern[p.section.mood];
    if (!beats || (p.section.mood === 'home' && p.index > 17)) return [];
    return hits(beats).flatMap((eighth) =>
      keys[i]!.map((key) => ({
        atTick: p.atTick + eighth * 240,
        lengthTicks: p.section.mood === 'home' ? 900 : 200,
        key,
        velocity: loudness(p, eighth * 240, chance) - 10,
      })),
    );
  });
};

const bass: Player = only('song dance waltz storm home', (plan, chance) => {
  const root = nearestTone([plan.chord.root], 40, 33, 48);
  const fifth = nearestTone([plan.chord.pitches[2]!], root - 2, 31, 50);
  const at =
    plan.section.meter[1] === 8
      ? [
          [0, root, 4],
          [4, fifth, 3],
        ]
      : plan.section.meter[0] === 3
        ? [[0, root, 5]]
        : [
            [0, root, 4],
            [4, fifth, 4],
          ];
  const low = plan.section.mood === 'home' && plan.index > 16 ? [[0, 38, 8]] : at;
  return low.map(([eighth, key, length]) => ({
    atTick: plan.atTick + eighth! * 240,
    lengthTicks: length! * 240 - 30,
    key: key!,
    velocity: loudness(plan, eighth! * 240, chance) - 4,
  }));
});

const marimba: Player = only('mist song dance home', (plan, chance) => {
  const { mood } = plan.section;
  if (mood === 'mist' && plan.index < 6) return [];
  const step = mood === 'dance' ? 240 : 480;
  const shape = [0, 2, 1, 2, 0, 1, 2, 1];
  return Array.from({ length: Math.floor(plan.lengthTicks / step) }, (_, n) => {
    const tone = plan.chord.pitches[shape[n % 8]! % plan.chord.pitches.length]!;
    return {
      atTick: plan.atTick + n * step,
      lengthTicks: step - 60,
      key: nearestTone([tone], 62 + (n % 3) * 4, 52, 79),
      velocity: loudness(plan, n * step, chance) - 14,
    };
  });
});

const toyPiano: Player = only('mist waltz home', (plan, chance) => {
  if (plan.section.mood === 'home' && plan.index > 18) return [];
  const tones = [0, 1, 2]
    .map((n) => nearestTone([plan.chord.pitches[n]!], 86, 79, 96))
    .sort((a, b) => a - b);
  const every = plan.section.mood === 'waltz' ? 480 : 960;
  return tones.slice(0, Math.floor(plan.lengthTicks / every)).map((key, n) => ({
    atTick: plan.atTick + n * every + 240,
    lengthTicks: 220,
    key,
    velocity: loudness(plan, n * every, chance) - 18,
  }));
});

const glass: Player = only('mist storm home', (plan, chance) => {
  if (plan.index % 2 === 1 && plan.section.mood !== 'home') return [];
  const length = plan.section.mood === 'home' ? plan.lengthTicks : plan.lengthTicks * 2;
  return [plan.chord.pitches[1]!, plan.chord.pitches[2]!].map((p) => ({
    atTick: plan.atTick,
    lengthTicks: length - 40,
    key: nearestTone([p], 79, 72, 88),
    velocity: loudness(plan, 0, chance) - 22,
  }));
});

const clarinet: Player = only('mist dance waltz storm', (plan, chance) =>
  plan.section.mood === 'dance' && plan.index >= 16 && plan.index < 20
    ? []
    : tuneNotes(plan, chance),
);

const bassClarinet: Player = only('song dance storm home', (plan, chance) => {
  if (plan.section.mood === 'dance' && plan.index < 8) return [];
  const third = nearestTone([plan.chord.pitches[1]!], 50, 41, 57);
  const root = nearestTone([plan.chord.root], third - 3, 38, 55);
  const half = plan.section.meter[1] === 8 ? 960 : plan.lengthTicks / 2;
  return [
    [0, root],
    [half, third],
  ].map(([at, key]) => ({
    atTick: plan.atTick + at!,
    lengthTicks: half - 60,
    key: key!,
    velocity: loudness(plan, at!, chance) - 8,
  }));
});

/** The singer: both verses, the refrain, and the ending. */
const voice: Player = only('song home', (plan, chance) => tuneNotes(plan, chance, 4));

export interface PartPlan {
  readonly name: string;
  readonly channel: number;
  /** General MIDI program as stored. */
  readonly program: number;
  readonly pan: number;
  readonly play: Player;
}

export const parts: readonly PartPlan[] = [
  { name: 'Voice', channel: 0, program: 53, pan: 64, play: voice },
  { name: 'Clarinet', channel: 1, program: 71, pan: 50, play: clarinet },
  { name: 'Bass Clarinet', channel: 2, program: 71, pan: 76, play: bassClarinet },
  { name: 'Accordion', channel: 3, program: 21, pan: 40, play: accordion },
  { name: 'Marimba', channel: 4, program: 12, pan: 88, play: marimba },
  { name: 'Toy Piano', channel: 5, program: 10, pan: 98, play: toyPiano },
  { name: 'Glass Harmonica', channel: 6, program: 98, pan: 30, play: glass },
  { name: 'Violin', channel: 7, program: 40, pan: 36, play: trio(0) },
  { name: 'Viola', channel: 8, program: 41, pan: 70, play: trio(1) },
  { name: 'Hand Drums', channel: 9, program: 0, pan: 64, play: drums },
  { name: 'Cello', channel: 10, program: 42, pan: 82, play: trio(2) },
  { name: 'Double Bass', channel: 11, program: 43, pan: 64, play: bass },
];

export const playPart = (part: PartPlan, plans: readonly BarPlan[]): Note[] =>
  oneBreath(
    part,
    part
      .play(plans, dice(part.channel * 7919 + 17))
      .sort((a, b) => a.atTick - b.atTick || a.key - b.key),
  );

/** A clarinet sounds one note at a time: each ends where the next begins. */
const oneBreath = (part: PartPlan, notes: Note[]): Note[] =>
  part.program !== 71
    ? notes
    : notes.map((n, i) => ({
        ...n,
        lengthTicks: Math.max(
          1,
          Math.min(n.lengthTicks, (notes[i + 1]?.atTick ?? Infinity) - n.atTick),
        ),
      }));
