import { percussionChannel } from '../../instruments/general-midi.ts';
import type { Division } from '../../smf/division.ts';
import type { HandoffAsked, HandoffSettings } from '../settings.ts';
import type { Leaving } from '../take-settings.ts';
import type { RecipeStep } from '../../operations/recipe/run/recipe.ts';
import type { Limits, Receiver } from './receiver.ts';

/** What of a song the settings for a receiver depend on. */
export interface SongFacts {
  readonly division: Division;
  readonly format: 0 | 1 | 2;
  readonly sections: number;
  /** Seconds between the two tempos that follow each other soonest; infinite where none do. */
  readonly temposApart: number;
  readonly tracks: readonly {
    readonly id: string;
    /** From 0. */
    readonly channels: readonly number[];
    /** It plays a kit, as its definition says. */
    readonly kit: boolean;
  }[];
}

/** A resolution where none is asked for, of a song whose ticks are parts of frames. */
const usualResolution = 960;

/** The resolution to write in; null where that of the song is taken. @param own null of frames */
export function fittingResolution(own: number | null, limits: Limits): number | null {
  const most = limits.finest ?? Infinity;
  const fits = (ppq: number): boolean =>
    ppq <= most && (limits.resolutions.length === 0 || limits.resolutions.includes(ppq));
  if (own === null)
    return limits.frames
      ? null
      : limits.resolutions.length > 0
        ? Math.max(...limits.resolutions)
        : Math.min(most, usualResolution);
  if (fits(own)) return null;
  if (limits.resolutions.length === 0) return most;
  // Of those that are opened, one that loses nothing, else the finest.
  const exact = limits.resolutions.filter((r) => r % own === 0).sort((a, b) => a - b);
  return exact[0] ?? Math.max(...limits.resolutions);
}

/** As what marks leave, so that they are shown. */
export function asMark({ marks }: Limits): Leaving['markers'] {
  if (marks.length === 0) return 'none';
  return marks.includes('markers') && marks.includes('cue points') ? 'as they are' : marks[0]!;
}

/** How everything goes into few tracks; undefined where that is not taken. */
export function tracksInOne({ formats, tracks }: Limits): HandoffAsked['form'] | undefined {
  if (tracks === null || tracks >= 2) return { format: 1, tracks: 'one' };
  return formats.includes(0) ? { format: 0 } : undefined;
}

/** Settings that send a receiver what it takes, in the form it takes. */
export function settingsFor(receiver: Receiver, song: SongFacts): HandoffAsked {
  const { takes: limits } = receiver;
  const own = song.division.kind === 'ppq' ? song.division.ticksPerQuarter : null;
  const recipe = recipeFor(receiver);
  return {
    divide: divisionFor(receiver, song),
    ...(recipe ? { recipe } : {}),
    form: {
      format: formatFor(limits, song),
      chunks: limits.chunks,
      ppq: fittingResolution(own, limits),
      text: limits.letters === 'any' ? 'as they are' : limits.letters,
      longestName: limits.nameLetters,
      longestMark: limits.markLetters,
      fileNames: limits.fileNames,
      // A karaoke file has an ending of its own unless another is asked for.
      ending: limits.ending === '.mid' && limits.formats[0] !== 'karaoke' ? null : limits.ending,
      start: limits.start,
      ...tempoFor(limits, song),
      ...(tooMany(limits, song) ? tracksInOne(limits) : {}),
    },
    take: takenBy(limits, song),
  };
}

/** Both formats are taken: the song goes in its own. */
const formatFor = ({ formats }: Limits, { format }: SongFacts): HandoffSettings['format'] =>
  format !== 2 && formats.includes(format) && formats.length > 1 ? 'as-received' : formats[0]!;

function divisionFor(
  { divide, takes }: Receiver,
  { sections }: SongFacts,
): HandoffSettings['divide'] {
  if (!takes.notes) return 'map';
  if (sections > 0) return divide;
  return divide === 'sections' ? 'whole' : divide === 'sections-tracks' ? 'tracks' : divide;
}

const tooMany = ({ tracks }: Limits, song: SongFacts): boolean =>
  tracks !== null && song.tracks.length > tracks;

/** Tempos that follow too soon are thinned; one tempo keeps the music in its bars. */
function tempoFor({ tempo, temposASecond }: Limits, song: SongFacts): HandoffAsked['form'] {
  if (song.division.kind === 'smpte') return {};
  if (tempo === 'one') return { tempo: 'one, in its bars' };
  const soon = temposASecond !== null && song.temposApart < 1 / temposASecond;
  return tempo === 'map' && soon ? { steps: { error: 1, perSecond: temposASecond } } : {};
}

/** Banks go with programs; RPN and NRPN with their data are parts of one message (MIDI 1.0). */
const withPrograms: ReadonlySet<number> = new Set([0, 32]);
const kindOfController: Readonly<Record<number, 'volume' | 'pan' | 'reverb' | 'chorus'>> = {
  7: 'volume',
  39: 'volume',
  10: 'pan',
  42: 'pan',
  91: 'reverb',
  93: 'chorus',
};

function takenBy(limits: Limits, song: SongFacts): NonNullable<HandoffAsked['take']> {
  const out = Array.from({ length: 120 }, (_, n) => n).filter(
    (n) => !withPrograms.has(n) && !takesController(limits, n),
  );
  const isOut = new Set(out);
  const others = Array.from({ length: 120 }, (_, n) => n).filter(
    (n) => !withPrograms.has(n) && kindOfController[n] === undefined,
  );
  const noBanks = limits.programs === 'General MIDI' ? [...withPrograms] : [];
  const allOut = others.every((n) => isOut.has(n));
  return {
    tempo: limits.tempo !== 'none',
    meters: limits.meters,
    keys: limits.keys,
    markers: asMark(limits),
    sections: limits.marks.length > 0,
    texts: limits.words || limits.marks.includes('texts'),
    lyrics: limits.lyrics,
    timecode: limits.timecode,
    copyright: limits.words,
    programs: limits.programs !== 'none',
    volume: !isOut.has(7),
    pan: !isOut.has(10),
    reverb: !isOut.has(91),
    chorus: !isOut.has(93),
    controllers: !allOut,
    // Ranges of bends are controllers, too.
    without: [...noBanks, ...out.filter((n) => !allOut || isRpn(n))],
    bend: limits.bend,
    pressure: limits.pressure,
    exclusive: limits.exclusive,
    specific: limits.specific,
    ports: limits.ports,
    trackNames: limits.trackNames,
    instrumentNames: limits.instrumentNames,
    channels: channelsFor(limits, song),
  };
}

const isRpn = (n: number): boolean => n === 6 || n === 38 || (n >= 96 && n <= 101);

/** Whether a controller is taken. */
export function takesController({ controllers, controllerList }: Limits, number: number): boolean {
  if (controllers === 'all' || controllers === 'none') return controllers === 'all';
  return controllerList.includes(number) === (controllers === 'only');
}

/** Kits on channel 10, and parts above the last channel on free ones below it. */
export function channelsFor(limits: Limits, { tracks }: SongFacts): Leaving['channels'] {
  const used = new Set(tracks.flatMap((t) => t.channels));
  const free = Array.from({ length: limits.channels }, (_, c) => c).filter(
    (c) => c !== percussionChannel && !used.has(c),
  );
  const list: { track: string; channel: number }[] = [];
  for (const { id, channels, kit } of tracks) {
    const [only, ...more] = channels;
    if (only === undefined || more.length > 0) continue;
    if (
      kit &&
      only !== percussionChannel &&
      limits.drums === 'on channel 10' &&
      limits.channels > percussionChannel
    )
      list.push({ track: id, channel: percussionChannel + 1 });
    else if (only >= limits.channels && free.length > 0)
      list.push({ track: id, channel: free.shift()! + 1 });
  }
  return list.length > 0 ? list : 'as they are';
}

/** Its own recipe, and what its limits ask of notes. */
function recipeFor({ name, recipe, takes }: Receiver): HandoffSettings['recipe'] {
  const steps: RecipeStep[] = [...(recipe?.steps ?? [])];
  if (!takes.keySwitches)
    steps.push({ operation: 'notes.remove', settings: { which: 'key switches' }, who: 'all' });
  if (takes.gap > 0)
    steps.push({
      operation: 'notes.lengths',
      settings: { how: 'apart from the next of its key', gap: takes.gap },
      who: 'all',
    });
  return steps.length === 0
    ? null
    : {
        name: recipe?.name ?? `For ${name}`,
        steps: steps.slice(0, 50) as NonNullable<HandoffSettings['recipe']>['steps'],
      };
}
