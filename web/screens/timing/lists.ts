import Papa from 'papaparse';
import { keySignatureText } from '#core/song/key-names.ts';
import { readEdl } from '#core/timing/edl.ts';
import { meterMap, parsePosition, positionAt, positionText, tickOf } from '#core/timing/meter-map.ts';
import { secondsToTicks, tempoMap, ticksToSeconds } from '#core/timing/tempo-map.ts';
import { parseTimecode, type FrameRate } from '#core/timing/timecode.ts';
import type { SongView } from '#contracts/songs.ts';

/** What a list gives: the settings of `timing.places`, and lines that could not be read. */
export interface ListRead {
  readonly marks: { atTick: number; kind: 'marker' | 'cue point'; text: string }[];
  readonly tempos: { atTick: number; bpm: number }[];
  readonly faults: { line: number; why: string }[];
}

const mapsOf = ({ timing, division }: SongView) => ({ meters: meterMap(timing.meters, division), tempo: tempoMap(timing.tempos.map((t) => ({ atTick: t.atTick, tempo: t.microsecondsPerQuarter })), division) });

/** Tempos, meters, keys, markers and cue points as comma-separated values, in the order of the bars. */
export function listCsv(song: SongView): string {
  const { timing } = song;
  const { meters, tempo } = mapsOf(song);
  const rows = [
    ...timing.tempos.map((t) => ({ at: t.atTick, kind: 'tempo', value: String(t.bpm) })),
    ...timing.meters.map((m) => ({ at: m.atTick, kind: 'meter', value: `${m.numerator}/${m.denominator}` })),
    ...timing.keys.map((k) => ({ at: k.atTick, kind: 'key', value: keySignatureText(k.sharps, k.minor) })),
    ...timing.markers.map((m) => ({ at: m.atTick, kind: 'marker', value: m.text })),
    ...timing.cuePoints.map((m) => ({ at: m.atTick, kind: 'cue point', value: m.text })),
  ].sort((a, b) => a.at - b.at);
  return Papa.unparse(rows.map((r) => ({ kind: r.kind, position: positionText(positionAt(meters, r.at)), seconds: ticksToSeconds(tempo, r.at).toFixed(6), value: r.value })), { newline: '\n' });
}

/** Markers, cue points and tempos of a CSV with the columns kind, position or seconds, and value. */
export function readCsv(text: string, song: SongView): ListRead {
  const { meters, tempo } = mapsOf(song);
  const read: ListRead = { marks: [], tempos: [], faults: [] };
  const { data } = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), { header: true, skipEmptyLines: 'greedy', transformHeader: (h) => h.trim().toLowerCase() });
  data.forEach((row, i) => {
    const line = i + 2;
    const place = parsePosition(row.position ?? '');
    const seconds = (row.seconds ?? '').trim() === '' ? NaN : Number(row.seconds);
    const atTick = place ? tickOf(meters, place) : Number.isFinite(seconds) && seconds >= 0 ? secondsToTicks(tempo, seconds) : undefined;
    const kind = (row.kind ?? 'marker').trim().toLowerCase();
    const value = (row.value ?? row.text ?? row.name ?? '').trim();
    if (atTick === undefined) read.faults.push({ line, why: `no place: position “${row.position ?? ''}”, seconds “${row.seconds ?? ''}”` });
    else if (kind === 'tempo') {
      if (Number(value) >= 3.577 && Number(value) <= 60_000_000) read.tempos.push({ atTick, bpm: Number(value) });
      else read.faults.push({ line, why: `“${value}” is no tempo` });
    } else if (kind === 'marker' || kind === 'cue point') {
      if (value === '') read.faults.push({ line, why: 'a marker without a text' });
      else read.marks.push({ atTick, kind, text: value.slice(0, 500) });
    } else if (kind !== 'meter' && kind !== 'key') read.faults.push({ line, why: `“${kind}” is no kind: marker, cue point or tempo` });
  });
  return read;
}

/** Markers of an edit decision list; the song has to say where bar 1 stands in timecode. */
export function readEdlList(text: string, song: SongView, rate: FrameRate): ListRead {
  const start = song.timing.startTimecode === undefined ? undefined : parseTimecode(song.timing.startTimecode, rate);
  if (start === undefined) return { marks: [], tempos: [], faults: [{ line: 0, why: 'the song states no start timecode that this list could be laid against: set it first' }] };
  const { tempo } = mapsOf(song);
  const { places, faults } = readEdl(text, rate, start);
  return { marks: places.map((p) => ({ atTick: secondsToTicks(tempo, p.seconds), kind: 'marker', text: p.text.slice(0, 500) })), tempos: [], faults: [...faults] };
}

export const isEdl = (name: string, text: string): boolean => /\.edl$/i.test(name) || /^\s*(TITLE:|FCM:)/i.test(text);
