import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { factsOf } from '../../song/track-facts.ts';
import { barTick, meterMap, positionAt } from '../../timing/meter-map.ts';
import { addressAt } from '../../timing/start-timecode.ts';
import { tempoMap } from '../../timing/tempo-map.ts';
import { counted } from '../rewrite.ts';
import type { HowArranged } from './how.ts';
import type { SaidAgain } from './said-again.ts';
import type { Arrangement } from './stretches.ts';

interface What {
  readonly arrangement: Arrangement;
  readonly mapStays: boolean;
  readonly unsaid: readonly number[];
  readonly said: SaidAgain;
  readonly how: HowArranged;
  /** Texts of markers that begin at a join now. */
  readonly kept: readonly string[];
}

/** What whoever moves bars should know beside the counts. */
export function toldOf(before: Song, after: Song, what: What): { told?: string[] } {
  const { said, unsaid, mapStays, how, arrangement, kept } = what;
  const told = [
    mapStays && how.tracks.length < before.tracks.length
      ? 'Tempo, meter, markers and sections stayed where they are, since other tracks stay.'
      : undefined,
    mapStays ? sharedWords(before, how) : timecodeWords(before, after, arrangement),
    kept.length > 0
      ? `Kept at the join, since the music that they name goes on there: ${kept.map((text) => `“${text}”`).join(', ')}.`
      : undefined,
    said.pedals > 0
      ? `${counted(said.pedals, 'pedal')} held over a join ${said.pedals === 1 ? 'goes' : 'go'} up there and down again.`
      : undefined,
    said.unknown > 0
      ? `${counted(said.unknown, 'value')} could not be put back at a join: nothing was said of ${said.unknown === 1 ? 'it' : 'them'} where the music comes from.`
      : undefined,
    said.lasting > 0
      ? `${counted(said.lasting, 'system exclusive message')} sent before a join ${said.lasting === 1 ? 'holds' : 'hold'} behind it, where ${said.lasting === 1 ? 'it' : 'they'} did not before.`
      : undefined,
    unsaid.length > 0
      ? `No meter can say how short bar ${unsaid.join(', ')} is: bar lines behind it lie elsewhere.`
      : undefined,
  ].filter((words) => words !== undefined);
  return told.length > 0 ? { told } : {};
}

/** Tracks that move while others on their channel stay. */
function sharedWords(song: Song, { tracks }: HowArranged): string | undefined {
  const moving = new Set(tracks.map((t) => t.id));
  const bits = (some: typeof tracks): number =>
    some.reduce((all, t) => all | factsOf(t).channels, 0);
  const shared = bits(tracks) & bits(song.tracks.filter((t) => !moving.has(t.id)));
  if (shared === 0) return undefined;
  const channels = Array.from({ length: 16 }, (_, c) => c).filter((c) => shared & (1 << c));
  return `Other tracks play on ${channels.length === 1 ? 'channel' : 'channels'} ${channels.map((c) => c + 1).join(', ')} too and stay: what they say there is heard in these tracks at other bars now.`;
}

/** Where a song has a timecode, from where to where the first bar goes that moves. */
function timecodeWords(before: Song, after: Song, { stretches }: Arrangement): string | undefined {
  const [was, is] = [before, after].map((song) => {
    const { timecode, tempos, meters } = timingOf(song);
    return {
      timecode,
      tempos: tempoMap(tempos, song.division),
      meters: meterMap(meters, song.division),
    };
  });
  if (!was!.timecode || !is!.timecode) return undefined;
  const moved = stretches.find((s) => s.at !== s.from);
  if (!moved) return undefined;
  const bar = positionAt(was!.meters, moved.from).bar;
  const now = positionAt(is!.meters, moved.at).bar;
  const from = addressAt(was!.timecode, was!.tempos, barTick(was!.meters, bar));
  const to = addressAt(is!.timecode, is!.tempos, moved.at);
  return from === to
    ? undefined
    : `What was bar ${bar} at timecode ${from} is bar ${now} at ${to} now.`;
}
