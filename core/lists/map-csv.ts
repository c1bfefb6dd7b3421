import Papa from 'papaparse';
import { keySignatureText, parseKeySignature } from '../song/key-names.ts';
import {
  meterMap,
  parsePosition,
  positionAt,
  positionBefore,
  positionText,
  tickOf,
  type MeterMap,
  type Position,
} from '../timing/meter-map.ts';
import { secondsToTicks, tempoMap, ticksToSeconds, type TempoMap } from '../timing/tempo-map.ts';
import { addressAt, framesAt } from '../timing/start-timecode.ts';
import { framesToSeconds, parseTimecode } from '../timing/timecode.ts';
import type { Meter, StatedTimecode, TempoPoint } from '../timing/timing.ts';
import { tempoToBpm } from '../units/units.ts';
import { mapsOf, type Maps, type TimedSong } from '../song/maps.ts';
import { csvRows, undecidedPlace, parseBpm, parseSeconds, type CsvRow } from './csv-rows.ts';
import { emptyList, type ListRead, type PlainPlaces } from './list-read.ts';

/** As few decimals as say the very tempo. */
function exactBpm(tempo: number): string {
  for (let digits = 0; digits < 10; digits++) {
    const text = tempoToBpm(tempo).toFixed(digits);
    if (Math.round(60_000_000 / Number(text)) === tempo) return text;
  }
  return String(tempoToBpm(tempo));
}

/** The map as comma-separated values, in the order of the bars; with timecode where the song states one. */
export function listCsv({ timing }: TimedSong, { meters, tempo, tempos }: Maps): string {
  const rows: { at: number; kind: string; value: string; end?: number; place?: Position }[] = [
    // Counted by the meter before it: else nobody could tell that it cuts a bar short.
    ...meters.map((m, n) => ({
      at: m.atTick,
      kind: 'meter',
      value: `${m.numerator}/${m.denominator}`,
      place: positionBefore(meters, n),
    })),
    ...tempos.map((t) => ({ at: t.atTick, kind: 'tempo', value: exactBpm(t.tempo) })),
    ...timing.keys.map((k) => ({
      at: k.atTick,
      kind: 'key',
      value: keySignatureText(k.sharps, k.minor),
    })),
    ...timing.sections.map((s) => ({
      at: s.fromTick,
      kind: 'section',
      value: s.name,
      end: s.toTick,
    })),
    ...timing.markers.map((m) => ({ at: m.atTick, kind: 'marker', value: m.whole ?? m.text })),
    ...timing.cuePoints.map((m) => ({ at: m.atTick, kind: 'cue point', value: m.whole ?? m.text })),
  ].sort((a, b) => a.at - b.at);
  const at = (tick: number): string => positionText(positionAt(meters, tick));
  const { timecode } = timing;
  const cells = rows.map((r) => ({
    kind: r.kind,
    position: r.place ? positionText(r.place) : at(r.at),
    seconds: ticksToSeconds(tempo, r.at).toFixed(6),
    ...(timecode ? { timecode: addressAt(timecode, tempo, r.at) } : {}),
    value: r.value,
    end: r.end === undefined ? '' : at(r.end),
  }));
  return Papa.unparse(cells, {
    newline: '\n',
    columns: ['kind', 'position', 'seconds', ...(timecode ? ['timecode'] : []), 'value', 'end'],
  });
}

interface Line extends CsvRow {
  readonly kind: string;
  readonly value: string;
}

/** What places of a list are counted by. */
interface Counted {
  readonly meters: MeterMap;
  readonly tempo: TempoMap;
  readonly timecode: StatedTimecode | undefined;
}

const kinds = new Set(['meter', 'tempo', 'key', 'section', 'marker', 'cue point', 'text']);

/**
 * What a CSV with the columns kind, position, seconds or timecode, value, and for sections end, holds. Its
 * own meters and tempos are read first: by them its other places are counted, and by the song's where they
 * are added to those.
 */
export function readCsv(
  text: string,
  song: TimedSong,
  maps: Maps = mapsOf(song),
  instead = false,
  plain?: PlainPlaces,
): ListRead {
  const read = emptyList();
  const asks = plain === undefined ? undecidedPlace(text) : undefined;
  if (asks !== undefined) return { ...read, asks };
  const rows = csvRows(text);
  if (rows === 'no columns')
    return {
      ...read,
      faults: [
        {
          line: 1,
          why: 'no column that says places: the first line names the columns, such as kind,position,value',
        },
      ],
    };
  const lines = rows.map((row): Line => ({
    ...row,
    ...(plain === 'seconds' ? { cells: bySeconds(row.cells) } : {}),
    kind: row.cells.kind?.toLowerCase() ?? 'marker',
    value: row.cells.value ?? '',
  }));
  for (const { line, kind } of lines)
    if (!kinds.has(kind))
      read.faults.push({ line, why: `“${kind}” is no kind: ${[...kinds].join(', ')}` });
  const alone = (kind: string): boolean => instead && lines.some((l) => l.kind === kind);
  const given: Counted = {
    meters: alone('meter') ? meterMap([], song.division) : maps.meters,
    tempo: maps.tempo,
    timecode: song.timing.timecode,
  };
  const barred = {
    ...given,
    meters: readMeters(lines, read, song, given, alone('meter') ? [] : song.timing.meters),
  };
  const counted = {
    ...barred,
    tempo: readTempos(lines, read, song, barred, alone('tempo') ? [] : maps.tempos),
  };
  for (const entry of lines) readPlace(entry, read, counted);
  read.faults.sort((a, b) => a.line - b.line);
  return read;
}

/** Cells whose place is a number of seconds. */
const bySeconds = ({ position, ...cells }: CsvRow['cells']): CsvRow['cells'] =>
  position === undefined ? cells : { ...cells, seconds: position };

/** Tick of a line, by bars where it says a position, else by ticks from the beginning, by seconds, else by timecode. */
function tickIn(
  { position, tick, seconds, timecode }: Line['cells'],
  counted: Counted,
): number | undefined {
  if (position !== undefined)
    return ((place) => place && tickOf(counted.meters, place))(parsePosition(position));
  if (tick !== undefined) return /^\d{1,15}$/.test(tick) ? Number(tick) : undefined;
  const at =
    seconds !== undefined
      ? parseSeconds(seconds)
      : timecode !== undefined
        ? secondsOfAddress(timecode, counted)
        : undefined;
  return at === undefined || at < 0 ? undefined : secondsToTicks(counted.tempo, at);
}

/** Seconds from bar 1 to an address; undefined where the song states no timecode, or has no such address. */
function secondsOfAddress(address: string, { timecode, tempo }: Counted): number | undefined {
  const frames = timecode && parseTimecode(address, timecode.rate);
  return frames === undefined
    ? undefined
    : framesToSeconds(frames - framesAt(timecode!, tempo, 0), timecode!.rate);
}

function nowhere({ line, cells: { position, tick, seconds, timecode } }: Line): {
  line: number;
  why: string;
} {
  if (position !== undefined)
    return {
      line,
      why: `“${position}” is no place of this song: bars and beats are counted from 1, as in 17.3`,
    };
  if (tick !== undefined)
    return { line, why: `“${tick}” is no number of ticks from the beginning` };
  if (seconds !== undefined) return { line, why: `“${seconds}” is no time in seconds` };
  return {
    line,
    why:
      timecode === undefined
        ? 'no place'
        : `${timecode} is no address of this song; set its start timecode first`,
  };
}

/** The meters of the list one after the other, each counted by those before it and by those that the song `had`. */
function readMeters(
  lines: readonly Line[],
  read: ListRead,
  { division }: Pick<TimedSong, 'division'>,
  counted: Counted,
  had: readonly Meter[],
): MeterMap {
  let all: Meter[] = had.map(({ atTick, numerator, denominator }) => ({
    atTick,
    numerator,
    denominator,
  }));
  let map = counted.meters;
  const order = ({ cells }: Line): number =>
    ((p) => (p ? p.bar + (p.beat ?? 1) / 1000 : Infinity))(parsePosition(cells.position ?? ''));
  for (const entry of lines.filter((l) => l.kind === 'meter').sort((a, b) => order(a) - order(b))) {
    const found = /^\s*(\d{1,3})\s*\/\s*(\d{1,3})\s*$/.exec(entry.value);
    const [numerator, denominator] = [Number(found?.[1]), Number(found?.[2])];
    const atTick = tickIn(entry.cells, { ...counted, meters: map });
    if (atTick === undefined) read.faults.push(nowhere(entry));
    else if (
      !found ||
      numerator < 1 ||
      numerator > 255 ||
      ![1, 2, 4, 8, 16, 32, 64, 128].includes(denominator)
    )
      read.faults.push({ line: entry.line, why: `“${entry.value}” is no meter` });
    else {
      read.meters.push({ atTick, numerator, denominator });
      all = [...all.filter((m) => m.atTick !== atTick), { atTick, numerator, denominator }].sort(
        (a, b) => a.atTick - b.atTick,
      );
      map = meterMap(all, division);
    }
  }
  return map;
}

function readTempos(
  lines: readonly Line[],
  read: ListRead,
  { division }: Pick<TimedSong, 'division'>,
  counted: Counted,
  had: readonly TempoPoint[],
): TempoMap {
  const found: TempoPoint[] = [];
  for (const entry of lines.filter((l) => l.kind === 'tempo')) {
    const atTick = tickIn(entry.cells, counted);
    const bpm = parseBpm(entry.value) ?? NaN;
    const microseconds = Math.round(60_000_000 / bpm);
    if (atTick === undefined) read.faults.push(nowhere(entry));
    else if (!(microseconds >= 1 && microseconds <= 0xffffff))
      read.faults.push({ line: entry.line, why: `“${entry.value}” is no tempo` });
    else {
      read.tempos.push({ atTick, bpm });
      found.push({ atTick, tempo: microseconds });
    }
  }
  if (found.length === 0) return counted.tempo;
  const there = new Set(found.map((p) => p.atTick));
  return tempoMap(
    [...had.filter((p) => !there.has(p.atTick)), ...found].sort((a, b) => a.atTick - b.atTick),
    division,
  );
}

function readPlace(entry: Line, read: ListRead, counted: Counted): void {
  const { kind, value, line, cells } = entry;
  if (!kinds.has(kind) || kind === 'meter' || kind === 'tempo') return;
  const atTick = tickIn(cells, counted);
  if (atTick === undefined) read.faults.push(nowhere(entry));
  else if (kind === 'key') {
    const key = parseKeySignature(value);
    if (key) read.keys.push({ atTick, ...key });
    else read.faults.push({ line, why: `“${value}” is no key, such as “D minor” or “B♭ major”` });
  } else if (value.trim() === '') read.faults.push({ line, why: `a ${kind} without a text` });
  else if (kind === 'section') {
    const toTick = tickIn(
      cells.position === undefined ? { seconds: cells.end ?? '' } : { position: cells.end ?? '' },
      counted,
    );
    if (toTick === undefined || toTick <= atTick)
      read.faults.push({
        line,
        why: `a section needs an end behind its beginning; “${cells.end ?? ''}” is none`,
      });
    else read.sections.push({ name: value.slice(0, 200), fromTick: atTick, toTick });
  } else
    read.marks.push({
      atTick,
      kind: kind as ListRead['marks'][number]['kind'],
      text: value.slice(0, 500),
      ...(cells.position === undefined && cells.tick === undefined ? { anchor: 'time' } : {}),
    });
}
