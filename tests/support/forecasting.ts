import fc from 'fast-check';
import { readSmf } from '#core/smf/read.ts';
import { writeSmf } from '#core/smf/write.ts';
import { songsFromSmf } from '#core/song/from-smf.ts';
import { sentSong } from '#core/song/lanes.ts';
import type { Song } from '#core/song/song.ts';
import { forecastOf } from '#core/handoff/forecast/forecast.ts';
import type { ForecastItem } from '#core/handoff/forecast/item.ts';
import { makeFile, planHandoff } from '#core/handoff/handoff.ts';
import { mergedSettings } from '#core/handoff/receiver/merged.ts';
import { limitsSchema, type Limits } from '#core/handoff/receiver/receiver.ts';
import { settingsFor } from '#core/handoff/receiver/settings-for.ts';
import { songFacts } from '#core/handoff/receiver/song-facts.ts';
import { divisions, type HandoffAsked } from '#core/handoff/settings.ts';
import { smfFile } from './generate.ts';
import { readIndependently, type PlainFile } from './independent.ts';
import { eventsIn, opens, takesKind, type Event } from './receiving.ts';

/** What the laws of forecasts are tried on, and what they say: sentences about what breaks them. */

const songOfReading = (bytes: Uint8Array): Song => {
  const reading = readSmf(bytes);
  if (!reading.ok) throw new Error(reading.problem.code);
  return songsFromSmf(reading.value.smf, 'x.mid')[0]!;
};
/** Without chunks of other kinds, which the independent reader does not bear. */
export const anyFile = smfFile().map((smf) => songOfReading(writeSmf({ ...smf, alienChunks: [] })));

const often = fc.oneof(
  { weight: 4, arbitrary: fc.constant(true) },
  { weight: 1, arbitrary: fc.constant(false) },
);
export const anyLimits: fc.Arbitrary<Limits> = fc
  .record({
    formats: fc.constantFrom([1, 0], [0], [1], ['karaoke', 1], ['karaoke']),
    resolutions: fc.constantFrom([], [], [], [96, 480], [960]),
    finest: fc.constantFrom(null, null, null, 960),
    frames: fc.boolean(),
    tracks: fc.constantFrom(null, null, null, 2, 16),
    channels: fc.constantFrom(16, 16, 16, 4),
    ports: often,
    notes: often,
    tempo: fc.constantFrom('map', 'map', 'one', 'none'),
    temposASecond: fc.constantFrom(null, null, 2),
    meters: often,
    keys: often,
    marks: fc.constantFrom(['markers', 'cue points', 'texts'], ['markers'], ['cue points'], []),
    markLetters: fc.constantFrom(null, null, 3),
    sections: fc.boolean(),
    lyrics: often,
    words: often,
    timecode: often,
    trackNames: often,
    instrumentNames: often,
    nameLetters: fc.constantFrom(null, null, 4),
    letters: fc.constantFrom('any', 'UTF-8', 'Latin-1', 'ASCII'),
    programs: fc.constantFrom('any', 'any', 'General MIDI', 'none'),
    controllers: fc.constantFrom('all', 'all', 'none'),
    bend: often,
    pressure: often,
    exclusive: often,
    specific: often,
    chunks: often,
    gap: fc.constantFrom(0, 0, 0, 20),
  })
  .map((l) => limitsSchema.safeParse(l))
  .filter((l) => l.success)
  .map((l) => l.data!);

const kindsOut = [
  'tempo',
  'meters',
  'keys',
  'programs',
  'volume',
  'controllers',
  'bend',
  'pressure',
  'exclusive',
  'ports',
  'trackNames',
  'texts',
  'sections',
  'lyrics',
  'specific',
] as const;

/** What is changed by hand behind a receiver. */
export const byHand: fc.Arbitrary<HandoffAsked> = fc
  .record({
    divide: fc.constantFrom(undefined, undefined, ...divisions.filter((d) => d !== 'groups')),
    bars: fc.option(fc.integer({ min: 1, max: 3 }), { nil: undefined, freq: 3 }),
    out: fc.subarray([...kindsOut], { maxLength: 2 }),
    tempo: fc.constantFrom(
      undefined,
      undefined,
      'as it is' as const,
      'one, as it sounds' as const,
      'one, in its bars' as const,
    ),
    ppq: fc.constantFrom(undefined, undefined, null, 24),
    format: fc.constantFrom(undefined, undefined, 0 as const, 1 as const),
    markers: fc.constantFrom(undefined, undefined, 'cue points' as const, 'texts' as const),
    channels: fc.constantFrom(undefined, undefined, 'one each' as const),
    drums: fc.constantFrom(undefined, undefined, 'each its own track' as const),
    notes: fc.constantFrom(undefined, 'keep' as const, 'again' as const),
    step: fc.constantFrom(undefined, undefined, undefined, 'notes.quantise', 'notes.transpose'),
  })
  .map(({ divide, bars, out, tempo, ppq, format, markers, channels, drums, notes, step }) => ({
    ...(divide ? { divide } : {}),
    ...(bars ? { scope: { bars: { from: bars, to: bars + 1 } } } : {}),
    form: {
      ...(tempo ? { tempo } : {}),
      ...(ppq === undefined ? {} : { ppq }),
      ...(format === undefined ? {} : { format }),
      ...(drums ? { drums } : {}),
    },
    take: {
      ...(markers ? { markers } : {}),
      ...(channels ? { channels } : {}),
      ...Object.fromEntries(out.map((k) => [k, false])),
    },
    ...(notes ? { edges: { notes } } : {}),
    ...(step
      ? {
          recipe: {
            name: 'R',
            steps: [
              {
                operation: step,
                settings: step === 'notes.transpose' ? { semitones: 2 } : {},
                who: 'all' as const,
              },
            ],
          },
        }
      : {}),
  }));

export const askedOf = (song: Song, takes: Limits, hand: HandoffAsked): HandoffAsked =>
  mergedSettings(
    settingsFor(
      { name: 'R', about: '', takes, divide: 'whole', packed: 'files', recipe: null },
      songFacts(song),
    ),
    hand,
  );

/** Every file, as bytes. */
function filesOf(song: Song, settings: HandoffAsked): Uint8Array[] {
  const planned = planHandoff(song, settings);
  if (!planned.ok) return [];
  return planned.value.plan.files.map((file) => {
    const made = makeFile(planned.value, file, { received: song, asRead: song });
    if (!made.ok) throw new Error(made.problem.code);
    return made.value.bytes;
  });
}

const counted = (events: readonly Event[]): Map<string, number> => {
  const counts = new Map<string, number>();
  for (const { kind } of events) counts.set(kind, (counts.get(kind) ?? 0) + 1);
  return counts;
};
const ofMap = new Set(['tempo', 'meters', 'keys']);
/**
 * Events without the tempos, meters and keys that repeat the one in force, which say nothing; a meter inside a
 * bar begins a bar and says that (SMF 1.0). Frames have no bars.
 */
function changesIn({ division }: PlainFile, events: readonly Event[]): Event[] {
  const inForce = new Map<string, Event>();
  const repeats = new Set<Event>();
  for (const event of [...events].sort((a, b) => a.tick - b.tick)) {
    if (!ofMap.has(event.kind)) continue;
    const before = inForce.get(event.kind);
    const [, beats, unit] = event.says.split(' ').map(Number) as [number, number, number];
    const bar = (4 * division * beats) / unit;
    const beginsBar =
      event.kind !== 'meters' ||
      event.tick === before?.tick ||
      (division > 0 && (event.tick - (before?.tick ?? 0)) % bar === 0);
    if (before?.says === event.says && beginsBar) repeats.add(event);
    else inForce.set(event.kind, event);
  }
  return events.filter((event) => !repeats.has(event));
}

/** What explains that anything may not arrive. */
const blanket = new Set([
  'files',
  'moreTracks',
  'highChannels',
  'gap',
  'bars',
  'chosenTracks',
  'notes',
]);
const sum = (items: readonly ForecastItem[]): number => items.reduce((n, i) => n + i.count, 0);

/** The whole song as the file that holds all of it. */
function everything(song: Song): Event[] {
  const file = readIndependently(filesOf(song, { format: 1 })[0]!);
  return changesIn(file, eventsIn(file));
}

/** One thing that is changed by hand. */
export const oneByHand: fc.Arbitrary<HandoffAsked> = fc.oneof(
  fc.constant({}),
  byHand.map(({ divide }) => (divide ? { divide } : {})),
  byHand.map(({ scope }) => (scope ? { scope } : {})),
  byHand.map(({ recipe }) => (recipe ? { recipe } : {})),
  byHand.map(({ form }) => ({ form: Object.fromEntries(Object.entries(form ?? {}).slice(0, 1)) })),
  byHand.map(({ take }) => ({ take: Object.fromEntries(Object.entries(take ?? {}).slice(0, 1)) })),
);

const exactKinds = [
  'meters',
  'keys',
  'lyrics',
  'programs',
  'banks',
  'volume',
  'pan',
  'bend',
  'pressure',
  'exclusive',
];

/**
 * What a receiver of the tests lacks and nobody said; and, of a whole song in a track each, numbers that are
 * not those that lack.
 */
export function unsaid(song: Song, takes: Limits, hand: HandoffAsked): string[] {
  const settings = askedOf(song, takes, hand);
  const forecast = forecastOf(song, settings, takes);
  const files = filesOf(song, settings);
  if (!forecast.ok || files.length === 0) return [];
  const items = forecast.value;
  const there = new Set<string>(items.map((i) => i.what));
  const isBlanket = [...blanket].some((b) => there.has(b));
  const karaoke = settings.form?.format === 'karaoke';
  const arrives = files.flatMap((bytes) => {
    const file = readIndependently(bytes);
    if (!opens(file, takes, karaoke)) return [];
    return changesIn(
      file,
      eventsIn(file).filter((e) => takesKind(e, takes)),
    );
  });
  const [here, gone] = [
    counted(everything({ ...song, tracks: sentSong(song).tracks })),
    counted(arrives),
  ];
  const found: string[] = [];
  for (const [kind, n] of here) {
    const told = items.some(
      (i) => i.what === kind || (kind === 'markers' && i.what === 'sections'),
    );
    if (n > (gone.get(kind) ?? 0) && !told && !isBlanket)
      found.push(`${kind} lacks ${n - (gone.get(kind) ?? 0)}`);
  }
  for (const item of items) if (item.count <= 0) found.push(`nothing of ${item.what}`);
  const { take, form } = settings;
  const plain =
    !isBlanket &&
    files.length === 1 &&
    settings.divide === 'whole' &&
    !settings.scope &&
    !karaoke &&
    !there.has('merged') &&
    take?.channels === 'as they are' &&
    form?.drums === undefined;
  if (!plain) return found;
  for (const kind of exactKinds) {
    if (kind === 'meters' && form?.tempo === 'one, as it sounds') continue;
    const said = sum(items.filter((i) => i.what === kind && i.arrives === 'not'));
    // A meter that is repeated on a bar line may stand beside it in another resolution.
    const lacks = Math.max(0, (here.get(kind) ?? 0) - (gone.get(kind) ?? 0));
    if (said !== lacks) found.push(`${kind}: ${said} said, ${lacks} lack`);
  }
  return found;
}

/** What whole files or tracks lack after a remedy that lacked before in none. */
const brought = (before: readonly ForecastItem[], after: readonly ForecastItem[]): string[] => {
  const worst = ['files', 'moreTracks', 'fileNames'];
  const had = new Set(before.map((i) => i.what));
  return after.filter((i) => worst.includes(i.what) && !had.has(i.what)).map((i) => i.says);
};

/** Remedies that set something and change nothing of what they are for. */
export function vain(
  song: Song,
  takes: Limits,
  hand: HandoffAsked,
): { tried: number; found: string[] } {
  const settings = askedOf(song, takes, hand);
  const before = forecastOf(song, settings, takes);
  const found: string[] = [];
  let tried = 0;
  if (!before.ok) return { tried, found };
  for (const item of before.value) {
    if (!item.remedy || !('setting' in item.remedy)) continue;
    tried++;
    const after = forecastOf(song, mergedSettings(settings, item.remedy.setting), takes);
    const words = `${item.what} ${item.arrives} ${item.by}: ${item.says}: ${JSON.stringify(item.remedy)}`;
    if (!after.ok) found.push(`${words} is refused: ${after.problem.code}`);
    else {
      const left = after.value.filter(
        (i) => i.what === item.what && i.arrives === item.arrives && i.by === item.by,
      );
      if (sum(left) >= item.count) found.push(`${words} leaves ${sum(left)}`);
      found.push(...brought(before.value, after.value).map((more) => `${words} brings ${more}`));
    }
  }
  return { tried, found };
}
