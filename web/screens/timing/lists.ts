import Papa from 'papaparse';
import { keySignatureText, parseKeySignature } from '#core/song/key-names.ts';
import { readEdl } from '#core/timing/edl.ts';
import { meterMap, parsePosition, positionAt, positionBefore, positionText, tickOf, type MeterMap, type Position } from '#core/timing/meter-map.ts';
import { secondsToTicks, tempoMap, ticksToSeconds, type TempoMap } from '#core/timing/tempo-map.ts';
import { framesAt } from '#core/timing/start-timecode.ts';
import type { Meter, TempoPoint } from '#core/timing/timing.ts';
import { tempoToBpm } from '#core/units/units.ts';
import type { SongView } from '#contracts/songs.ts';
import { mapsOf, type Maps } from '../../api/maps.ts';

type Written = 'marker' | 'cue point' | 'text';

/** What a list gives: the settings of `timing.places`, and lines that could not be read. */
export interface ListRead {
  readonly marks: { atTick: number; kind: Written; text: string }[];
  readonly tempos: { atTick: number; bpm: number }[];
  readonly meters: { atTick: number; numerator: number; denominator: number }[];
  readonly keys: { atTick: number; sharps: number; minor: boolean }[];
  readonly sections: { name: string; fromTick: number; toTick: number }[];
  readonly faults: { line: number; why: string }[];
}

const nothing = (): ListRead => ({ marks: [], tempos: [], meters: [], keys: [], sections: [], faults: [] });

/** As few decimals as say the very tempo. */
function exactBpm(tempo: number): string {
  for (let digits = 0; digits < 10; digits++) {
    const text = tempoToBpm(tempo).toFixed(digits);
    if (Math.round(60_000_000 / Number(text)) === tempo) return text;
  }
  return String(tempoToBpm(tempo));
}

/** The map as comma-separated values, in the order of the bars. */
export function listCsv({ timing }: SongView, { meters, tempo, tempos }: Maps): string {
  const rows: { at: number; kind: string; value: string; end?: number; place?: Position }[] = [
    // Counted by the meter before it: else nobody could tell that it cuts a bar short.
    ...meters.map((m, n) => ({ at: m.atTick, kind: 'meter', value: `${m.numerator}/${m.denominator}`, place: positionBefore(meters, n) })),
    ...tempos.map((t) => ({ at: t.atTick, kind: 'tempo', value: exactBpm(t.tempo) })),
    ...timing.keys.map((k) => ({ at: k.atTick, kind: 'key', value: keySignatureText(k.sharps, k.minor) })),
    ...timing.sections.map((s) => ({ at: s.fromTick, kind: 'section', value: s.name, end: s.toTick })),
    ...timing.markers.map((m) => ({ at: m.atTick, kind: 'marker', value: m.text })),
    ...timing.cuePoints.map((m) => ({ at: m.atTick, kind: 'cue point', value: m.text })),
  ].sort((a, b) => a.at - b.at);
  const at = (tick: number): string => positionText(positionAt(meters, tick));
  return Papa.unparse(rows.map((r) => ({ kind: r.kind, position: r.place ? positionText(r.place) : at(r.at), seconds: ticksToSeconds(tempo, r.at).toFixed(6), value: r.value, end: r.end === undefined ? '' : at(r.end) })), { newline: '\n', columns: ['kind', 'position', 'seconds', 'value', 'end'] });
}

interface Line {
  readonly line: number;
  readonly kind: string;
  readonly value: string;
  readonly row: Readonly<Record<string, string>>;
}

const kinds = new Set(['meter', 'tempo', 'key', 'section', 'marker', 'cue point', 'text']);

/**
 * What a CSV with the columns kind, position or seconds, value, and for sections end, holds. Its own meters and tempos are read first:
 * by them its other places are counted.
 */
export function readCsv(text: string, song: SongView, maps: Maps = mapsOf(song)): ListRead {
  const read = nothing();
  const { data } = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), { header: true, skipEmptyLines: 'greedy', transformHeader: (h) => h.trim().toLowerCase() });
  const lines = data.map((row, i): Line => ({ line: i + 2, kind: (row.kind ?? 'marker').trim().toLowerCase(), value: (row.value ?? row.text ?? row.name ?? '').trim(), row }));
  for (const { line, kind } of lines) if (!kinds.has(kind)) read.faults.push({ line, why: `“${kind}” is no kind: ${[...kinds].join(', ')}` });
  const counted = readMeters(lines, read, song, maps);
  const timed = readTempos(lines, read, song, maps, counted);
  for (const entry of lines) readPlace(entry, read, counted, timed);
  read.faults.sort((a, b) => a.line - b.line);
  return read;
}

/** Tick of a line, by bars where it says a position, else by seconds. */
function tickIn(row: Line['row'], meters: MeterMap, tempo: TempoMap): number | undefined {
  const place = parsePosition(row.position ?? '');
  const seconds = (row.seconds ?? '').trim() === '' ? NaN : Number(row.seconds);
  return place ? tickOf(meters, place) : Number.isFinite(seconds) && seconds >= 0 ? secondsToTicks(tempo, seconds) : undefined;
}

const nowhere = ({ line, row }: Line): { line: number; why: string } => ({ line, why: `no place: position “${row.position ?? ''}”, seconds “${row.seconds ?? ''}”` });

/** The meters of the list one after the other, each counted by those before it and by the song's. */
function readMeters(lines: readonly Line[], read: ListRead, { timing, division }: SongView, { meters, tempo }: Maps): MeterMap {
  let all: Meter[] = timing.meters.map(({ atTick, numerator, denominator }) => ({ atTick, numerator, denominator }));
  let map = meters;
  const order = ({ row }: Line): number => ((p) => (p ? p.bar + (p.beat ?? 1) / 1000 : Infinity))(parsePosition(row.position ?? ''));
  for (const entry of lines.filter((l) => l.kind === 'meter').sort((a, b) => order(a) - order(b))) {
    const found = /^(\d{1,3})\s*\/\s*(\d{1,3})$/.exec(entry.value);
    const [numerator, denominator] = [Number(found?.[1]), Number(found?.[2])];
    const atTick = tickIn(entry.row, map, tempo);
    if (atTick === undefined) read.faults.push(nowhere(entry));
    else if (!found || numerator < 1 || numerator > 255 || ![1, 2, 4, 8, 16, 32, 64, 128].includes(denominator)) read.faults.push({ line: entry.line, why: `“${entry.value}” is no meter` });
    else {
      read.meters.push({ atTick, numerator, denominator });
      all = [...all.filter((m) => m.atTick !== atTick), { atTick, numerator, denominator }].sort((a, b) => a.atTick - b.atTick);
      map = meterMap(all, division);
    }
  }
  return map;
}

function readTempos(lines: readonly Line[], read: ListRead, { division }: SongView, { tempo, tempos }: Maps, meters: MeterMap): TempoMap {
  const found: TempoPoint[] = [];
  for (const entry of lines.filter((l) => l.kind === 'tempo')) {
    const atTick = tickIn(entry.row, meters, tempo);
    const bpm = entry.value === '' ? NaN : Number(entry.value);
    if (atTick === undefined) read.faults.push(nowhere(entry));
    else if (!(bpm >= 3.577 && bpm <= 60_000_000)) read.faults.push({ line: entry.line, why: `“${entry.value}” is no tempo` });
    else {
      read.tempos.push({ atTick, bpm });
      found.push({ atTick, tempo: Math.round(60_000_000 / bpm) });
    }
  }
  if (found.length === 0) return tempo;
  const there = new Set(found.map((p) => p.atTick));
  return tempoMap([...tempos.filter((p) => !there.has(p.atTick)), ...found].sort((a, b) => a.atTick - b.atTick), division);
}

function readPlace(entry: Line, read: ListRead, meters: MeterMap, tempo: TempoMap): void {
  const { kind, value, line, row } = entry;
  if (!kinds.has(kind) || kind === 'meter' || kind === 'tempo') return;
  const atTick = tickIn(row, meters, tempo);
  if (atTick === undefined) read.faults.push(nowhere(entry));
  else if (kind === 'key') {
    const key = parseKeySignature(value);
    if (key) read.keys.push({ atTick, ...key });
    else read.faults.push({ line, why: `“${value}” is no key, such as “D minor” or “B♭ major”` });
  } else if (value === '') read.faults.push({ line, why: `a ${kind} without a text` });
  else if (kind === 'section') {
    const toTick = tickIn({ position: row.end ?? '', seconds: row['end seconds'] ?? '' }, meters, tempo);
    if (toTick === undefined || toTick <= atTick) read.faults.push({ line, why: `a section needs an end behind its beginning; “${row.end ?? ''}” is none` });
    else read.sections.push({ name: value.slice(0, 200), fromTick: atTick, toTick });
  } else read.marks.push({ atTick, kind: kind as Written, text: value.slice(0, 500) });
}

/** Markers of an edit decision list; the song has to say where it stands in timecode. */
export function readEdlList(text: string, { timing }: SongView, { tempo }: Maps): ListRead {
  const { timecode } = timing;
  if (!timecode) return { ...nothing(), faults: [{ line: 0, why: 'the song states no start timecode that this list could be laid against: set it first' }] };
  const { places, faults } = readEdl(text, timecode.rate, framesAt(timecode, tempo, 0));
  return { ...nothing(), marks: places.map((p) => ({ atTick: secondsToTicks(tempo, p.seconds), kind: 'marker', text: p.text.slice(0, 500) })), faults: [...faults] };
}

export const isEdl = (name: string, text: string): boolean => /\.edl$/i.test(name) || /^\s*(TITLE:|FCM:)/i.test(text);
