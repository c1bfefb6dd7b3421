import { percussionChannel } from '../instruments/general-midi.ts';
import { soundName } from '../instruments/sounds.ts';
import { keySignatureText } from '../song/key-names.ts';
import { choosesIt, firstProgram } from '../song/played-by.ts';
import type { Song, Track } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { tempoAt, tempoMap } from '../timing/tempo-map.ts';
import { tempoToBpm } from '../units/units.ts';
import type { NameFacts } from './names.ts';
import type { Cut } from './cuts.ts';

/** What names can say of a file. */
export function factsForName(
  song: Song,
  { tracks, span, track, section }: Cut,
  { number, of, version }: { number: number; of: number; version: string },
): NameFacts {
  const from = span?.from ?? 0;
  const { tempos, keys } = timingOf(song);
  const key = keys.filter((k) => k.atTick <= from).at(-1);
  const only = tracks?.size === 1 ? song.tracks.find((t) => tracks.has(t.id)) : undefined;
  const bpm = tempoToBpm(tempoAt(tempoMap(tempos, song.division), from));
  return {
    song: song.title,
    track: track ?? '',
    section: section ?? '',
    nn: String(number).padStart(Math.max(2, String(of).length), '0'),
    instrument: only ? instrumentOf(only) : '',
    bpm: song.division.kind === 'smpte' ? '' : String(Number(bpm.toFixed(2))),
    key: key ? keySignatureText(key.sharps, key.minor).replace('♯', '#').replace('♭', 'b') : '',
    version,
  };
}

/** What plays a track, as its definition or its first program says; nothing where neither does. */
function instrumentOf({ events, instrument }: Track): string {
  const said = firstProgram(events);
  if (instrument && choosesIt(instrument, said)) return instrument.name;
  return said
    ? soundName({ program: said.program, bank: null }, said.channel === percussionChannel)
    : '';
}
