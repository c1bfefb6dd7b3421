import { payloadOf } from '../../smf/events.ts';
import type { Song } from '../../song/song.ts';
import { tempoMap, ticksToSeconds } from '../../timing/tempo-map.ts';
import type { Difference } from './compare-ticks.ts';
import type { PartCase } from './part-case.ts';
import { kindOf } from './reading/event-kind.ts';
import { statedTimecode } from './reading/own-words.ts';
import { readSongMap } from './reading/song-map.ts';

/** A timecode that is stated: frames from midnight at a tick, and how many frames a second has. */
interface Stated {
  readonly owner: string;
  readonly atTick: number;
  readonly frames: number;
  readonly rate: number;
  readonly own: boolean;
}

/** The frame rates of an SMPTE offset by bits 5 and 6 of its hour (SMF 1.0). */
const offsetRates = ['24', '25', '29.97 drop', '30'];

/** The timecode at the beginning of a part is that of the song at its first bar, and none where none leaves. */
export function verifyTimecode(of: PartCase): Difference[] {
  const { song, leaving, wanted, places } = of;
  const [there, here] = [statedIn(song), statedIn(leaving)];
  const first = there.find((s) => s.own) ?? there[0];
  const found = here.find((s) => s.own) ?? here[0];
  if (!wanted.take.timecode || !first)
    return here.map((s) => ({ state: 'has', owner: s.owner, what: 'timecode', tick: s.atTick }));
  if (!found) return [{ state: 'lacks', owner: 'song', what: 'timecode', tick: 0 }];
  const map = tempoMap(readSongMap(song).tempos, song.division);
  const { from } = places.span;
  const frames =
    first.frames + (ticksToSeconds(map, from) - ticksToSeconds(map, first.atTick)) * first.rate;
  const isWhole = of.part.span === undefined && from === 0;
  const start = isWhole && found.own ? first.frames : frames;
  const day = 86_400 * Math.round(first.rate);
  const off = (((found.frames - start) % day) + day) % day;
  const isNear = Math.min(off, day - off) <= 1.01 || first.rate !== Math.round(first.rate);
  return isNear && Math.abs(found.rate - first.rate) < 0.001
    ? []
    : [
        {
          state: 'has',
          owner: found.owner,
          what: `timecode ${found.frames} frames instead of ${start}`,
          tick: 0,
        },
      ];
}

function statedIn({ tracks }: Song): Stated[] {
  const found: Stated[] = [];
  for (const { id: owner, events } of tracks)
    for (let row = 0; row < events.count; row++) {
      if (events.status[row] !== 0xff || kindOf(events, row) !== 'timecode') continue;
      const payload = payloadOf(events, row);
      const said = statedTimecode(payload);
      const [hour, minutes, seconds, frames] = said
        ? said.address.split(/[:;]/).map(Number)
        : [payload[0]! & 31, payload[1]!, payload[2]!, payload[3]!];
      const rate = said?.rate ?? offsetRates[(payload[0]! >> 5) & 3]!;
      if (!said && payload.length < 4) continue;
      found.push({
        owner,
        own: said !== undefined,
        atTick: said ? events.atTick[row]! : 0,
        frames:
          countFrames([hour!, minutes!, seconds!, frames!], rate) +
          (said ? 0 : (payload[4] ?? 0) / 100),
        rate: exactRate(rate),
      });
    }
  return found;
}

/** 29.97 and its like are whole frames in 1.001 seconds (SMPTE ST 12-1). */
function exactRate(rate: string): number {
  const number = Number.parseFloat(rate);
  return Number.isInteger(number) ? number : (Math.ceil(number) * 1000) / 1001;
}

/** Frames from midnight; drop-frame leaves out two numbers in nine of ten minutes (SMPTE ST 12-1). */
function countFrames(
  [hours, minutes, seconds, frames]: readonly [number, number, number, number],
  rate: string,
): number {
  const nominal = Math.ceil(Number.parseFloat(rate));
  const all = (hours * 3600 + minutes * 60 + seconds) * nominal + frames;
  const passed = hours * 60 + minutes;
  return rate.includes('drop') ? all - (nominal / 15) * (passed - Math.floor(passed / 10)) : all;
}
