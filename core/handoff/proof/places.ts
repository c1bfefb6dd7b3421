import { ticksPerSecond } from '../../smf/division.ts';
import type { TickSpan } from '../../song/scope.ts';
import type { Song } from '../../song/song.ts';
import { tempoAt, tempoMap, ticksToSeconds } from '../../timing/tempo-map.ts';
import { bpmToTempo } from '../../units/units.ts';
import type { Part } from '../part/piece.ts';
import type { Wanted } from '../settings.ts';
import { kindOf } from './reading/event-kind.ts';
import { readSongMap } from './reading/song-map.ts';

/** Where a tick of the song has to be in a file, and how far from there it may be. */
export interface Places {
  readonly span: TickSpan;
  readonly times: number;
  /** Ticks that what is placed again may be off; the ends of notes that would lose their length one more. */
  readonly reach: number;
  /** Exact place of a tick in a time of the bars, from 0. */
  at(tick: number, time: number): number;
  /** Whether one time ends and the next begins there: things are said there that the song says elsewhere. */
  isBoundary(place: number): boolean;
}

/** Where a part begins and ends in the song: with its first note, if that is asked for. */
export function findSpan(song: Song, part: Part, { form }: Wanted): TickSpan {
  const span = part.span ?? { from: 0, to: Infinity };
  if (form.start === 'in its place') return span;
  let first = Infinity;
  for (const { id, events } of song.tracks) {
    if (part.tracks !== undefined && !part.tracks.has(id)) continue;
    for (let row = 0; row < events.count && events.atTick[row]! < Math.min(first, span.to); row++)
      if (events.atTick[row]! >= span.from && kindOf(events, row) === 'note on')
        first = events.atTick[row]!;
  }
  return first === Infinity ? span : { ...span, from: first };
}

/** Worked out from the settings alone. @param endsAt the last tick of the file */
export function placesOf(song: Song, span: TickSpan, wanted: Wanted, endsAt: number): Places {
  const { form, repeat } = wanted;
  const map = tempoMap(readSongMap(song).tempos, song.division);
  const sounding = form.tempo === 'one, as it sounds' && song.division.kind === 'ppq';
  const length = span.to - span.from;
  const seconds = (tick: number): number => ticksToSeconds(map, tick);
  const tempo = form.bpm === null ? tempoAt(map, span.from) : bpmToTempo(form.bpm);
  const lasts = repeat > 1 ? seconds(span.to) - seconds(span.from) : 0;
  const scale =
    form.ppq === null
      ? 1
      : song.division.kind === 'ppq'
        ? form.ppq / song.division.ticksPerQuarter
        : (form.ppq * 2) / ticksPerSecond(song.division);
  const ppq = song.division.kind === 'ppq' ? song.division.ticksPerQuarter : 0;
  const at = (tick: number, time: number): number => {
    const place = sounding
      ? ((seconds(tick) - seconds(span.from) + time * lasts) * ppq * 1_000_000) / tempo
      : tick - span.from + (repeat > 1 ? time * length : 0);
    return place * scale;
  };
  const reach = (sounding ? 1 : 0) + (scale === 1 ? 0 : 1);
  const lines = Array.from({ length: repeat }, (_, time) => at(span.from, time));
  const last = span.to < Infinity ? at(span.to, repeat - 1) : endsAt;
  return {
    span,
    times: repeat,
    reach,
    at,
    isBoundary: (place) =>
      place >= last - reach - 0.5 || lines.some((line) => Math.abs(place - line) <= reach + 0.5),
  };
}
