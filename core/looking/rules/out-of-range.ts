import { keySwitchesIn } from '../../edit/key-switches.ts';
import { counted } from '../../edit/rewrite.ts';
import { familyOf } from '../../instruments/general-midi.ts';
import { kindOf } from '../../instruments/kinds.ts';
import { limitsOfSound, type Limits } from '../../instruments/limits.ts';
import { soundName } from '../../instruments/sounds.ts';
import { keyName } from '../../units/units.ts';
import { firstProgram, limitsOf } from '../../song/played-by.ts';
import { onTracks, type Noticed, type Settling } from '../finding.ts';
import type { Outside } from '../track-look.ts';
import type { LookedSong, LookedTrack } from '../view.ts';
import { sharesChannel } from './shared-channel.ts';

/** Of an instrument whose range is common practice, fewer notes than this may be slips, or a player's tuning. */
const leastNotes = 4;

/**
 * Notes that what plays the part cannot sound. A part that shares its channel is given nothing else: others
 * would hear of it.
 */
export const outOfRange = (song: LookedSong): Noticed[] =>
  song.parts.flatMap((t): Noticed[] => {
    const outside = t.look.outside;
    if (!outside) return [];
    const { noticed, give } = outside;
    const settle = give && !sharesChannel(song, t) ? [give, ...noticed.settle] : noticed.settle;
    return [{ ...noticed, settle }];
  });

/** The same of one part, with what could play it instead. */
export function outsideOf(song: LookedSong, t: LookedTrack): Outside | null {
  const [noticed] = beyond(song, t, false, pitched);
  if (!noticed) return null;
  const give = giving(t);
  return give ? { noticed, give } : { noticed };
}

/** Notes on keys for which a kit has no drum. */
export const kitKeys = (song: LookedSong): Noticed[] =>
  song.parts.flatMap((t) => beyond(song, t, true, ofKit));

interface Beyond {
  readonly t: LookedTrack;
  readonly limits: Limits;
  readonly playable: readonly [number, number];
  readonly outside: readonly number[];
  readonly keys: readonly number[];
}

function beyond(
  song: LookedSong,
  t: LookedTrack,
  drums: boolean,
  said: (found: Beyond) => Pick<Noticed, 'title' | 'why' | 'settle'>,
): Noticed[] {
  const limits = onlyLimits(t);
  const playable = limits?.playable;
  if (!limits || !playable || limits.drums !== drums) return [];
  const rows = musicOf(t);
  const { data1, atTick } = t.track.events;
  const outside = rows.filter((row) => data1[row]! < playable[0] || data1[row]! > playable[1]);
  if (outside.length < (limits.defined ? 1 : leastNotes)) return [];
  const bars = outside.map((row) => song.barAt(atTick[row]!));
  return [
    {
      ...said({
        t,
        limits,
        playable,
        outside: outside.map((row) => data1[row]!),
        keys: rows.map((row) => data1[row]!),
      }),
      tracks: [t.id],
      bars: { from: bars[0]!, to: bars.at(-1)! },
      count: outside.length,
      sure: limits.defined ? 'likely' : 'possible',
    },
  ];
}

/** Rows of the notes of a part, without key switches, which are a finding of their own. */
function musicOf({ notes, track: { events } }: LookedTrack): number[] {
  const switches = keySwitchesIn(events);
  return [...notes.on].filter((row) => {
    const key = events.data1[row]!;
    return !switches || key < switches.lowest || key > switches.highest;
  });
}

/**
 * What a part can do that plays with one program; where it changes inside, nobody can say of which notes it
 * is true.
 */
function onlyLimits({ track }: LookedTrack): Limits | undefined {
  const { status, data1, count } = track.events;
  const programs = new Set<number>();
  for (let i = 0; i < count; i++) if (status[i]! >> 4 === 0xc) programs.add(data1[i]!);
  const [program] = programs;
  if (program === undefined || programs.size > 1) return undefined;
  const limits = limitsOf(track);
  // Bells and mallets are written in any octave, and played by programs that sound in all of them.
  const anyOctave = !limits?.defined && !limits?.drums && kindOf(program, false) === 'struck';
  return anyOctave ? undefined : limits;
}

function pitched({ t, limits, playable: [lowest, highest], outside, keys }: Beyond) {
  const below = outside.filter((key) => key < lowest).length;
  const where = below === 0 ? 'above' : below === outside.length ? 'below' : 'below or above';
  const octaves = octavesInto(keys, lowest, highest);
  return {
    title: `${t.label} has ${counted(outside.length, 'note')} ${where} what ${limits.called} can play`,
    why: `It goes from ${keyName(lowest)} to ${keyName(highest)}: a player cannot play the others, and a recorded instrument may not sound there.`,
    settle:
      octaves === undefined
        ? []
        : [
            {
              title: `${Math.abs(octaves) === 1 ? 'An octave' : `${Math.abs(octaves)} octaves`} ${octaves > 0 ? 'up' : 'down'}`,
              operation: 'notes.transpose',
              settings: { semitones: octaves * 12 },
              scope: onTracks(t.id),
            },
          ],
  };
}

/**
 * The instrument of the same family, by its program the nearest, that has all keys of a part; undefined
 * where none has.
 */
function giving(t: LookedTrack): Settling | undefined {
  const said = firstProgram(t.track.events);
  if (!said) return undefined;
  const { data1 } = t.track.events;
  const rows = musicOf(t);
  const kind = kindOf(said.program, false);
  const [nearest] = Array.from({ length: 128 }, (_, program) => program)
    .filter((program) => {
      const { playable, voices } = limitsOfSound(program, false);
      return (
        kindOf(program, false) === kind &&
        familyOf(program) === familyOf(said.program) &&
        voices !== 1 &&
        playable !== undefined &&
        rows.every((row) => data1[row]! >= playable[0] && data1[row]! <= playable[1])
      );
    })
    .sort((a, b) => Math.abs(a - said.program) - Math.abs(b - said.program));
  return nearest === undefined
    ? undefined
    : {
        title: `Give it ${soundName({ program: nearest, bank: null }, false)}`,
        operation: 'tracks.instrument',
        settings: { program: nearest + 1 },
        scope: onTracks(t.id),
      };
}

/** By how many octaves all keys come into a range, the fewest; undefined where none does it. */
function octavesInto(keys: readonly number[], lowest: number, highest: number): number | undefined {
  const from = keys.reduce((low, key) => Math.min(low, key), 127);
  const to = keys.reduce((high, key) => Math.max(high, key), 0);
  return [1, -1, 2, -2, 3, -3].find((n) => from + n * 12 >= lowest && to + n * 12 <= highest);
}

const ofKit = ({ t, limits, playable: [lowest, highest], outside }: Beyond) => ({
  title: `${t.label} has ${counted(outside.length, 'note')} on ${counted(new Set(outside).size, 'key')} that ${limits.called} has no drum for`,
  why: `Its drums are on keys ${lowest} to ${highest}: elsewhere nothing sounds, or something else than was meant.`,
  settle: [],
});
