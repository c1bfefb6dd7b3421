import { keySwitchesIn } from '../../edit/key-switches.ts';
import { counted } from '../../edit/rewrite.ts';
import { kindOf } from '../../instruments/kinds.ts';
import type { Limits } from '../../instruments/limits.ts';
import { keyName } from '../../units/units.ts';
import { limitsOf } from '../../song/played-by.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** Of an instrument whose range is common practice, fewer notes than this may be slips, or a player's tuning. */
const leastNotes = 4;

/** Notes that what plays the part cannot sound. */
export const outOfRange = (song: LookedSong): Noticed[] => beyond(song, false, pitched);

/** Notes on keys for which a kit has no drum. */
export const kitKeys = (song: LookedSong): Noticed[] => beyond(song, true, ofKit);

interface Beyond {
  readonly t: LookedTrack;
  readonly limits: Limits;
  readonly playable: readonly [number, number];
  readonly outside: readonly number[];
  readonly keys: readonly number[];
}

function beyond(
  song: LookedSong,
  drums: boolean,
  said: (found: Beyond) => Pick<Noticed, 'title' | 'why' | 'settle'>,
): Noticed[] {
  return song.parts.flatMap((t): Noticed[] => {
    const limits = onlyLimits(t);
    const playable = limits?.playable;
    if (!limits || !playable || limits.drums !== drums) return [];
    // Key switches are a finding of their own.
    const switches = keySwitchesIn(t.track.events);
    const { data1, atTick } = t.track.events;
    const rows = [...t.notes.on].filter(
      (row) => !switches || data1[row]! < switches.lowest || data1[row]! > switches.highest,
    );
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
  });
}

/** What a part can do that plays with one program; where it changes inside, nobody can say of which notes it is true. */
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
