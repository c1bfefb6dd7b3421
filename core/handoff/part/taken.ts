import { pickEvents } from '../../smf/event-builder.ts';
import { META, meta, SYSEX, SYSEX_PACKET, type Events } from '../../smf/events.ts';
import { isBridge } from '../../smf/bridges.ts';
import { meantType } from '../../smf/own-events.ts';
import { withEvents, type Song, type Track } from '../../song/song.ts';
import { markText, timingOf } from '../../song/timing-of.ts';
import type { Leaving } from '../take-settings.ts';
import { bendRangeRows, isParameter } from './bend-range-rows.ts';

/** The settings that leave a kind out, and what it is called, one and many. */
const called = {
  tempo: ['tempo', 'tempos'],
  meters: ['meter', 'meters'],
  keys: ['key signature', 'key signatures'],
  markers: ['marker', 'markers'],
  sections: ['mark of a section', 'marks of sections'],
  texts: ['text', 'texts'],
  lyrics: ['syllable', 'syllables'],
  timecode: ['start timecode', 'start timecodes'],
  copyright: ['copyright notice', 'copyright notices'],
  programs: ['program or bank', 'programs and banks'],
  volume: ['volume', 'volumes'],
  pan: ['pan', 'pans'],
  reverb: ['reverb send', 'reverb sends'],
  chorus: ['chorus send', 'chorus sends'],
  controllers: ['controller', 'controllers'],
  bend: ['pitch bend', 'pitch bends'],
  pressure: ['pressure value', 'pressure values'],
  exclusive: ['system exclusive message', 'system exclusive messages'],
  specific: ['sequencer-specific event', 'sequencer-specific events'],
  ports: ['channel prefix or port', 'channel prefixes and ports'],
  trackNames: ['track name', 'track names'],
  instrumentNames: ['instrument name', 'instrument names'],
} as const;
export type Kind = keyof typeof called;

const ofMeta: Readonly<Record<number, Kind>> = {
  [meta.tempo]: 'tempo',
  [meta.timeSignature]: 'meters',
  [meta.keySignature]: 'keys',
  [meta.marker]: 'markers',
  [meta.cuePoint]: 'markers',
  [meta.text]: 'texts',
  [meta.lyric]: 'lyrics',
  [meta.smpteOffset]: 'timecode',
  [meta.copyright]: 'copyright',
  [meta.sequencerSpecific]: 'specific',
  [meta.channelPrefix]: 'ports',
  [meta.port]: 'ports',
  [meta.trackName]: 'trackNames',
  [meta.instrumentName]: 'instrumentNames',
  [meta.programName]: 'instrumentNames',
  [meta.deviceName]: 'instrumentNames',
};

const ofController: Readonly<Record<number, Kind>> = {
  0: 'programs',
  32: 'programs',
  7: 'volume',
  39: 'volume',
  10: 'pan',
  42: 'pan',
  91: 'reverb',
  93: 'chorus',
};

/**
 * What an event is, as far as it can be left out; undefined of notes, ends of tracks, and what no setting
 * names. Marks of sections are markers here.
 */
export function kindOfRow(events: Events, i: number): Kind | undefined {
  const status = events.status[i]!;
  if (status === META) return isBridge(events, i) ? undefined : ofMeta[meantType(events, i)];
  if (status === SYSEX || status === SYSEX_PACKET) return 'exclusive';
  switch (status >> 4) {
    case 0xa:
    case 0xd:
      return 'pressure';
    case 0xb:
      return ofController[events.data1[i]!] ?? 'controllers';
    case 0xc:
      return 'programs';
    case 0xe:
      return 'bend';
    default:
      return undefined;
  }
}

const isOut = (take: Leaving, kind: Kind): boolean =>
  kind === 'markers' ? take.markers === 'none' : !take[kind];

const kinds = Object.keys(called) as Kind[];

/** Whether anything of this kind leaves; marks of sections are asked for by themselves. */
export function leavesBy(take: Leaving): (events: Events, row: number) => boolean {
  if (kinds.every((kind) => !isOut(take, kind)) && take.without.length === 0) return () => true;
  const without = new Set(take.without);
  let of: Events | undefined;
  let range: ReadonlySet<number> = new Set();
  return (events, row) => {
    if (without.size > 0 && events.status[row]! >> 4 === 0xb && without.has(events.data1[row]!))
      return false;
    const kind = kindOfRow(events, row);
    if (kind === undefined || !isOut(take, kind)) return true;
    if (kind !== 'controllers' || !take.bend || !isParameter(events, row)) return false;
    // The range that bends are heard in goes with them.
    if (of !== events) [of, range] = [events, bendRangeRows(events)];
    return range.has(row);
  };
}

const becomes: Readonly<Partial<Record<Leaving['markers'], number>>> = {
  markers: meta.marker,
  'cue points': meta.cuePoint,
  texts: meta.text,
};

/**
 * A song with what is to leave of it, and what was left out, counted in words. Tracks of which everything
 * leaves are the same objects.
 */
export function taken(song: Song, take: Leaving): { song: Song; notes: string[] } {
  const leaves = leavesBy(take);
  const isSection = marksOfSections(song);
  const out = new Map<Kind, number>();
  let turned = 0;
  const type = becomes[take.markers];
  const tracks = song.tracks.map((track) => {
    const { events } = track;
    const rows: number[] = [];
    for (let i = 0; i < events.count; i++) {
      const section = isSection(track, i);
      const kept = section ? take.sections : leaves(events, i);
      if (kept) rows.push(i);
      else {
        const kind = section ? 'sections' : kindOfRow(events, i)!;
        out.set(kind, (out.get(kind) ?? 0) + 1);
      }
    }
    const kept = rows.length === events.count ? events : pickEvents(events, rows);
    const marked = type === undefined ? kept : withMarksAs(kept, type);
    if (marked !== kept) turned += marksTurned(kept, marked);
    return marked === events ? track : withEvents(track, marked);
  });
  const notes = [...outWords(out), ...(turned > 0 ? [turnedWords(turned, take.markers)] : [])];
  return { song: tracks.every((t, i) => t === song.tracks[i]) ? song : { ...song, tracks }, notes };
}

function outWords(out: ReadonlyMap<Kind, number>): string[] {
  if (out.size === 0) return [];
  const said = kinds.flatMap((kind) => {
    const n = out.get(kind);
    return n ? [`${n.toLocaleString('en')} ${called[kind][n === 1 ? 0 : 1]}`] : [];
  });
  return [`Left out as asked: ${said.join(', ')}.`];
}

const turnedWords = (n: number, as: Leaving['markers']): string =>
  `${n === 1 ? 'One mark leaves' : `${n.toLocaleString('en')} marks leave`} as ${as}.`;

/** Whether a row is a mark of a section. */
export function marksOfSections(song: Song): (track: Track, row: number) => boolean {
  const { sections } = timingOf(song);
  if (sections.length === 0) return () => false;
  const key = (track: string, tick: number, text: string): string => `${track} ${tick} ${text}`;
  const marks = new Set(
    sections.flatMap((s) => s.marks.map((m) => key(m.track, m.atTick, m.text))),
  );
  return ({ id, events }, row) =>
    events.status[row] === META &&
    meantType(events, row) === meta.marker &&
    marks.has(key(id, events.atTick[row]!, markText(events, row, song.encoding)));
}

const isMark = (events: Events, i: number): boolean =>
  events.status[i] === META &&
  (events.data1[i] === meta.marker || events.data1[i] === meta.cuePoint);

function withMarksAs(events: Events, type: number): Events {
  let data1: Uint8Array | undefined;
  for (let i = 0; i < events.count; i++)
    if (isMark(events, i) && events.data1[i] !== type) (data1 ??= events.data1.slice())[i] = type;
  return data1 ? { ...events, data1 } : events;
}

function marksTurned(before: Events, after: Events): number {
  let n = 0;
  for (let i = 0; i < before.count; i++) if (before.data1[i] !== after.data1[i]) n++;
  return n;
}
