import type { TimedSong } from '../song/maps.ts';
import { readSmf } from '../smf/read.ts';
import { say } from '../problems/sentences.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { timingOf } from '../song/timing-of.ts';
import { tempoToBpm } from '../units/units.ts';
import { emptyList, type ListRead } from './list-read.ts';

/** Whether a file is a MIDI file: bare, wrapped in RIFF, or damaged at its beginning. */
export const isMidi = (name: string, bytes: Uint8Array): boolean =>
  /\.(mid|midi|smf|kar|rmi)$/i.test(name) ||
  ['MThd', 'RIFF'].includes(String.fromCharCode(...bytes.subarray(0, 4)));

/** The map of a MIDI file, said in the ticks of the song; its notes and texts are left. */
export function readMidiMap(
  bytes: Uint8Array,
  { division }: Pick<TimedSong, 'division'>,
): ListRead {
  const fault = (why: string): ListRead => ({ ...emptyList(), faults: [{ line: 0, why }] });
  const reading = readSmf(bytes);
  if (!reading.ok) return fault(`${say(reading.problem).message}: this file cannot be read`);
  const [song, ...patterns] = songsFromSmf(reading.value.smf, '');
  if (!song) return fault('the file has no track');
  if (division.kind !== 'ppq' || song.division.kind !== 'ppq')
    return fault(
      `the ticks of ${division.kind === 'ppq' ? 'that file' : 'this song'} are parts of frames: turn them into quarter notes first`,
    );
  const scale = division.ticksPerQuarter / song.division.ticksPerQuarter;
  const at = (tick: number): number => Math.round(tick * scale);
  const { tempos, meters, keys, markers, cuePoints, sections } = timingOf(song);
  return {
    marks: [...markers, ...cuePoints].flatMap(({ atTick, kind, text, whole }) =>
      text === '' ? [] : [{ atTick: at(atTick), kind, text: whole ?? text }],
    ),
    tempos: lastOnTick(
      tempos.map(({ atTick, tempo }) => ({ atTick: at(atTick), bpm: tempoToBpm(tempo) })),
    ),
    meters: lastOnTick(
      meters.map(({ atTick, numerator, denominator }) => ({
        atTick: at(atTick),
        numerator,
        denominator,
      })),
    ),
    keys: lastOnTick(
      keys
        .filter((k) => Math.abs(k.sharps) <= 7)
        .map(({ atTick, sharps, minor }) => ({ atTick: at(atTick), sharps, minor })),
    ),
    sections: sections
      .map(({ name, fromTick, toTick }) => ({ name, fromTick: at(fromTick), toTick: at(toTick) }))
      .filter((s) => s.toTick > s.fromTick),
    faults:
      patterns.length > 0
        ? [
            {
              line: 0,
              why: `it holds ${patterns.length + 1} patterns: this is the map of the first`,
            },
          ]
        : [],
  };
}

/** Of several on a tick the last counts; many files state their key once a track. */
const lastOnTick = <T extends { atTick: number }>(list: readonly T[]): T[] =>
  list.filter((x, i) => list[i + 1]?.atTick !== x.atTick);
