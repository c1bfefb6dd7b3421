import { trackLabel, type Song } from '../../song/song.ts';
import { mergedSettings } from '../receiver/merged.ts';
import type { Limits } from '../receiver/receiver.ts';
import { asMark, channelsFor, fittingResolution, tracksInOne } from '../receiver/settings-for.ts';
import { songFacts } from '../receiver/song-facts.ts';
import type { HandoffAsked, Wanted } from '../settings.ts';
import { takeSchema } from '../take-settings.ts';
import type { Remedy, What } from './item.ts';
import { bit } from './judge/outcome.ts';
import type { Told } from './tally.ts';

/** What remedies are looked for with. */
export interface Remedying {
  readonly song: Song;
  readonly wanted: Wanted;
  readonly limits: Limits;
}

type Marks = ReturnType<typeof asMark>;
type Finding = (told: Told, given: Remedying) => Remedy | null;
type Settings = Extract<Remedy, { setting: unknown }>;

const set = (says: string, setting: HandoffAsked): Settings => ({ says, setting });
const takeKeys = new Set(Object.keys(takeSchema.shape));

/** What makes it arrive, or arrive as it is; null where nothing does. */
export function remedyFor(told: Told, given: Remedying): Remedy | null {
  const [findings, usual] = told.arrives === 'changed' ? [changed, ofKind] : [missing, leftOut];
  const remedy = (findings[told.what] ?? usual)(told, given);
  const isOpen = told.what === 'files' || !remedy || 'step' in remedy;
  return isOpen || opens(remedy.setting, given) ? remedy : null;
}

/** Whether files that are made so are opened: else nothing else helps. */
function opens({ form }: HandoffAsked, { song, wanted, limits }: Remedying): boolean {
  return isOpened(song, { ...wanted, form: { ...wanted.form, ...form } } as Wanted, limits);
}

function isOpened(song: Song, wanted: Wanted, limits: Limits): boolean {
  const own = song.division.kind === 'ppq' ? song.division.ticksPerQuarter : null;
  const ppq = wanted.form.ppq ?? own;
  const fits = ppq === null ? limits.frames : fittingResolution(ppq, limits) === null;
  return fits && limits.formats.includes(formatOf(song, wanted));
}

/** Several that are in the way at once are set at once. */
function together(...remedies: readonly (Settings | null | false)[]): Settings | null {
  const some = remedies.filter((r) => r !== null && r !== false);
  const [first] = some;
  return first
    ? set(
        first.says,
        some.reduce((all, r) => mergedSettings(all, r.setting), {} as HandoffAsked),
      )
    : null;
}

const leavingAs = (as: Marks) => ({ markers: as });

const withoutRecipe = ({ wanted }: Remedying): Settings | null =>
  wanted.recipe ? set('Send it without the recipe', { recipe: null }) : null;

/** A step more on the copy that leaves; null where it is taken already. */
function addStep(
  { wanted: { recipe } }: Remedying,
  says: string,
  operation: string,
  settings: Record<string, unknown>,
): Settings | null {
  const steps = recipe?.steps ?? [];
  const has = steps.some(
    (s) => s.operation === operation && JSON.stringify(s.settings) === JSON.stringify(settings),
  );
  if (has) return null;
  return set(says, {
    recipe: {
      name: recipe?.name ?? 'For this receiver',
      steps: [...steps, { operation, settings, who: 'all' }],
    },
  });
}

/** The tempo map as it is, where it is taken. */
function mapAsItIs({ wanted: { form, take }, limits, song }: Remedying): Settings | null {
  if (song.division.kind === 'smpte' || limits.tempo !== 'map') return null;
  const steps = form.steps !== null && limits.temposASecond === null;
  if (take.tempo && form.tempo === 'as it is' && !steps) return null;
  return set('Send the tempo map', {
    form: { tempo: 'as it is', ...(steps ? { steps: null } : {}) },
    take: { tempo: true },
  });
}

/** The music where it sounds here: by the map, else by its places at one tempo. */
function asItSounds(given: Remedying): Settings | null {
  const { form } = given.wanted;
  const { limits, song } = given;
  const map = mapAsItIs(given);
  if (map || song.division.kind === 'smpte' || form.tempo === 'one, as it sounds') return map;
  if (limits.tempo === 'map' && limits.temposASecond !== null && form.steps === null)
    return set('Thin the tempos to what is followed', {
      form: { steps: { error: 1, perSecond: limits.temposASecond } },
    });
  return set('Place it anew at one tempo: it sounds as here, on other bars and beats', {
    form: { tempo: 'one, as it sounds' },
  });
}

const inItsBars = ({ wanted: { form }, limits }: Remedying): Settings | null =>
  form.tempo === 'one, as it sounds'
    ? set(
        `Keep every event in its bar${limits.tempo === 'map' ? '' : ', at the one tempo there'}`,
        {
          form: { tempo: limits.tempo === 'map' ? 'as it is' : 'one, in its bars' },
        },
      )
    : null;

const drumsTogether = ({ wanted: { form, divide } }: Remedying): Settings | null =>
  together(
    form.drums !== 'as they are' &&
      set('Leave drums in their tracks', { form: { drums: 'as they are' } }),
    divide === 'drums' && set('A file for each track', { divide: 'tracks' }),
  );

const eachItsTrack = ({ limits }: Remedying): Settings | null =>
  limits.formats.includes(1) && limits.tracks === null
    ? set('A track for each part', { form: { format: 1, tracks: 'as they are' } })
    : null;

/** Whether anything of the song ends before it does. */
const isCut = ({ scope, divide, repeat }: Wanted): boolean =>
  scope?.bars !== undefined || divide === 'sections' || divide === 'sections-tracks' || repeat > 1;

const changed: Readonly<Partial<Record<What, Finding>>> = {
  tempo: (_, given) => mapAsItIs(given),
  meters: (_, given) => inItsBars(given),
  places: (_, given) => together(inItsBars(given), withoutRecipe(given)),
  rounding: (_, { song, wanted, limits }) => {
    const { form } = wanted;
    const own = song.division.kind === 'ppq' ? song.division.ticksPerQuarter : undefined;
    const fits = own !== undefined && fittingResolution(own, limits) === null;
    return fits && form.tempo !== 'one, as it sounds' && form.ppq !== null && form.ppq !== own
      ? set('Keep the song’s ticks a quarter note', { form: { ppq: null } })
      : null;
  },
  time: (_, given) => asItSounds(given),
  lengths: (_, given) =>
    together(
      given.wanted.edges.notes !== 'keep' &&
        isCut(given.wanted) &&
        set('Keep notes whole that ring over the end', { edges: { notes: 'keep' } }),
      withoutRecipe(given),
    ),
  velocities: (_, given) => withoutRecipe(given),
  pitches: (_, given) => withoutRecipe(given),
  channels: (_, { wanted, limits, song }) =>
    wanted.take.channels === 'as they are' || channelsFor(limits, songFacts(song)) !== 'as they are'
      ? null
      : set('Leave channels as they are', { take: { channels: 'as they are' } }),
  drums: (told, { wanted }) => {
    const had = typeof wanted.take.channels === 'string' ? [] : wanted.take.channels;
    const rest = had.filter((c) => !told.tracks.has(c.track));
    return set('Put them on channel 10', {
      take: { channels: [...rest, ...[...told.tracks].map((track) => ({ track, channel: 10 }))] },
    });
  },
  keySwitches: (_, given) =>
    addStep(given, 'Take them out of the copy that leaves', 'notes.remove', {
      which: 'key switches',
    }),
  elsewhere: (_, given) => together(drumsTogether(given), withoutRecipe(given)),
  merged: (_, given) => eachItsTrack(given),
  start: (_, { wanted, limits }) =>
    together(
      !wanted.edges.leadIn && set('Send the bars before the music', { edges: { leadIn: true } }),
      wanted.form.start !== 'in its place' &&
        limits.start === 'in its place' &&
        set('Leave it in its place', { form: { start: 'in its place' } }),
    ),
  repeated: () => set('Once', { repeat: 1 }),
  fileNames: (_, { limits }) =>
    set('Call them as it takes it', {
      form: { fileNames: limits.fileNames, ending: limits.ending },
    }),
  more: (_, given) =>
    together(
      given.wanted.edges.notes === 'again' &&
        set('Cut notes without striking them again', { edges: { notes: 'cut' } }),
      withoutRecipe(given),
    ),
};

const missing: Readonly<Partial<Record<What, Finding>>> = {
  tempo: ({ by }, given) => (by === 'receiver' ? null : mapAsItIs(given)),
  meters: (told, given) =>
    told.by === 'receiver' ? null : together(inItsBars(given), leftOut(told, given)),
  markers: (_, { wanted, limits }) => {
    const fit = asMark(limits);
    return fit === 'none' || fit === wanted.take.markers
      ? null
      : set(fit === 'as they are' ? 'Send them' : `Let them leave as ${fit}`, {
          take: leavingAs(fit),
        });
  },
  sections: ({ by }) => (by === 'setting' ? set('Send them', { take: { sections: true } }) : null),
  notes: (told, given) =>
    told.by === 'receiver' ? null : together(leftOut(told, given), withoutRecipe(given)),
  gap: (_, given) =>
    addStep(
      given,
      `End notes ${given.limits.gap} ms before the next of their key`,
      'notes.lengths',
      {
        how: 'apart from the next of its key',
        gap: Math.max(0.1, given.limits.gap),
      },
    ),
  highChannels: (_, { song, limits, wanted }) => {
    const channels = channelsFor(limits, songFacts(song));
    return channels === 'as they are' || wanted.take.channels !== 'as they are'
      ? null
      : set('Put them on free channels that are heard', { take: { channels } });
  },
  moreTracks: (_, { limits, wanted }) => {
    const form = tracksInOne(limits);
    return form === undefined || wanted.form.tracks === 'one'
      ? null
      : set('Send it as one track', { form });
  },
  files: (_, { limits, wanted, song }) => {
    const own = song.division.kind === 'ppq' ? song.division.ticksPerQuarter : null;
    const format = limits.formats.includes(formatOf(song, wanted))
      ? {}
      : { format: limits.formats[0]! };
    // A karaoke file has an ending of its own unless another is asked for.
    const ending = limits.formats[0] === 'karaoke' ? { ending: limits.ending } : {};
    return set('Write it so that it is opened', {
      form: { ...format, ppq: fittingResolution(own, limits), ...ending },
    });
  },
  chosenTracks: (_, { wanted: { divide } }) =>
    divide === 'whole' || divide === 'sections'
      ? set('Send all tracks', { tracks: 'all' })
      : set('Send the whole song', { divide: 'whole', groups: [], tracks: 'all' }),
  bars: (_, { wanted: { divide, scope } }) =>
    together(
      (divide === 'sections' || divide === 'sections-tracks') &&
        set('Send the whole song', { divide: 'whole' }),
      scope?.bars !== undefined && set('Send all bars', { scope: {} }),
    ),
  parked: ({ tracks }) => ({
    says: 'Unpark them',
    step: { operation: 'controllers.unpark', settings: {}, scope: { tracks: [...tracks] } },
  }),
  chunks: (_, { limits }) => (limits.chunks ? set('Send them', { form: { chunks: true } }) : null),
  trackNames: (told, given) =>
    given.limits.trackNames
      ? together(leftOut(told, given), eachItsTrack(given), drumsTogether(given))
      : null,
};

/** What a kind is sent by, where that is not its own name. */
const sentWith: Readonly<Partial<Record<What, string>>> = { banks: 'programs' };
const ofTheMap: ReadonlySet<What> = new Set([
  'tempo',
  'meters',
  'keys',
  'markers',
  'sections',
  'timecode',
  'copyright',
]);

/** The channels that a receiver hears, where those of the song are others. */
function channelsHeard({ limits, song }: Remedying): HandoffAsked {
  const channels = channelsFor(limits, songFacts(song));
  return channels === 'as they are' ? {} : { take: { channels } };
}

/** What was left out as set is sent. */
function leftOut({ what, by }: Told, given: Remedying): Settings | null {
  if (by === 'receiver') return null;
  const { take, form, divide } = given.wanted;
  const kind = sentWith[what] ?? what;
  const isOut =
    takeKeys.has(kind) && (take[kind as keyof typeof take] === false || take.without.length > 0);
  return together(
    divide === 'map' &&
      !ofTheMap.has(what) &&
      set('Send the music, too', { divide: 'whole', scope: {}, ...channelsHeard(given) }),
    isOut && set('Send them', { take: { [kind]: true, without: [] } }),
    form.format === 'karaoke' &&
      kind === 'lyrics' &&
      given.limits.formats.includes(1) &&
      set('Send them', { form: { format: 1 } }),
  );
}

/** What of its own kind changed: its letters, its length, its form. */
function ofKind({ what, ways, tracks, by }: Told, given: Remedying): Remedy | null {
  const { wanted, limits, song } = given;
  const { form, take } = wanted;
  const isMark = what === 'markers' || what === 'sections';
  const [most, now] = isMark
    ? [limits.markLetters, form.longestMark]
    : [limits.nameLetters, form.longestName];
  const setting = together(
    (ways & bit.letters) > 0 &&
      limits.letters !== 'any' &&
      form.text !== limits.letters &&
      set(`Write them with the letters of ${limits.letters}`, { form: { text: limits.letters } }),
    (ways & bit.letters) > 0 &&
      limits.letters === 'any' &&
      form.text !== 'as they are' &&
      set('Leave letters as they are', { form: { text: 'as they are' } }),
    (ways & bit.cut) > 0 &&
      now !== most &&
      set(
        most === null ? 'Leave them as long as they are' : 'Cut them so that they stay different',
        {
          form: isMark ? { longestMark: most } : { longestName: most },
        },
      ),
    // What stays cut or in other letters stays changed.
    (ways & bit.form) > 0 &&
      isMark &&
      most === null &&
      !((ways & bit.letters) > 0 && limits.letters !== 'any') &&
      take.markers !== asMark(limits) &&
      set('Let them leave as they are taken', { take: leavingAs(asMark(limits)) }),
    (ways & bit.form) > 0 && what === 'trackNames' && eachItsTrack(given),
    (ways & bit.value) > 0 && withoutRecipe(given),
  );
  const [only] = tracks;
  if (setting || what !== 'trackNames' || !(ways & bit.cut) || tracks.size > 1 || by === 'receiver')
    return setting;
  return {
    says: 'Give it a shorter name',
    step: {
      operation: 'tracks.rename',
      settings: { name: shortName(song, only!, limits) },
      scope: { tracks: [only!] },
    },
  };
}

/** The format that a file has. */
export const formatOf = ({ format }: Song, { form }: Wanted): 0 | 1 | 'karaoke' =>
  form.format === 'as-received' ? (format === 1 ? 1 : 0) : form.format;

function shortName(song: Song, id: string, { nameLetters }: Limits): string {
  const track = song.tracks.find((t) => t.id === id)!;
  return Array.from(trackLabel(song, track))
    .slice(0, nameLetters ?? 200)
    .join('')
    .trim();
}
