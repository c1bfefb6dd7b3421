import type { SongView } from '#contracts/songs.ts';
import type { Anchor } from '#core/timing/marks.ts';
import type { GradualRun } from '#core/timing/gradual-runs.ts';
import { keySignatureText } from '#core/song/key-names.ts';
import {
  cutBar,
  meterAt,
  positionAt,
  type MeterMap,
  type Position,
} from '#core/timing/meter-map.ts';
import { endText } from '#core/timing/sections.ts';
import type { StepAsked } from '../../api/queries.ts';
import type { Tempos } from '../../api/runs.ts';
import { notatedBeat } from '#core/timing/notated-beat.ts';
import { bpmText, count } from '../../components/text.ts';
import type { Prepared } from '../../state/step.ts';
import { handlesOf, removeHandle, type Handle } from './map-model.ts';

export type RowKind =
  'tempo' | 'gradual change' | 'meter' | 'key' | 'section' | 'marker' | 'cue point' | 'text';

/** A mark or section that is edited in its row. */
export interface MarkRow {
  readonly kind: 'section' | 'marker' | 'cue point' | 'text';
  readonly text: string;
  readonly atTick: number;
  /** End of a section. */
  readonly toTick?: number;
  readonly track: string;
  readonly travels: boolean;
  readonly anchor: Anchor;
}

/** A point of the map as the table shows it. */
export interface MapRow {
  readonly kind: RowKind;
  readonly atTick: number;
  readonly place: Position;
  readonly says: string;
  readonly beside?: string;
  /** The step that would change it, to be prepared; marks are edited in place. */
  readonly edit?: Prepared;
  readonly mark?: MarkRow;
  /** A tempo, or the beginning of a gradual change, edited in place. */
  readonly handle?: Handle;
  readonly remove: StepAsked;
}

export const kindNames: Readonly<Record<RowKind, string>> = {
  tempo: 'Tempo',
  'gradual change': 'Gradual change',
  meter: 'Meter',
  key: 'Key',
  section: 'Section',
  marker: 'Marker',
  'cue point': 'Cue point',
  text: 'Text',
};

/** Every point of the map, in the order of the bars; the steps of a gradual change are one row. */
export function mapRows(song: SongView, map: MeterMap, tempos: Tempos): MapRow[] {
  return [
    ...tempoRows(song, map, tempos),
    ...changeRows(map, tempos),
    ...signatureRows(song, map),
    ...markRows(song, map),
  ].sort((a, b) => a.atTick - b.atTick);
}

function tempoRows({ timing }: SongView, map: MeterMap, tempos: Tempos): MapRow[] {
  return handlesOf(tempos)
    .filter((h) => h.kind === 'point' && (h.atTick > 0 || timing.tempos[0]?.atTick === 0))
    .map((handle): MapRow => {
      const { atTick, bpm } = handle;
      const place = positionAt(map, atTick);
      const beat = notatedBeat(meterAt(map, atTick));
      const beside =
        beat.quarters === 1 ? undefined : `of the ${beat.name}; ${bpmText(bpm)} of the quarter`;
      return {
        kind: 'tempo',
        atTick,
        place,
        says: `${bpmText(bpm / beat.quarters)} BPM`,
        ...(beside ? { beside } : {}),
        handle,
        remove: { operation: 'timing.tempo', settings: { ...place, bpm: null } },
      };
    });
}

function changeRows(map: MeterMap, tempos: Tempos): MapRow[] {
  return tempos.runs.map((run, n): MapRow => {
    const place = positionAt(map, run.fromTick);
    const end = positionAt(map, run.toTick);
    const handle = { kind: 'from', run: n, atTick: run.fromTick, bpm: run.from } as const;
    return {
      kind: 'gradual change',
      atTick: run.fromTick,
      place,
      says: `${bpmText(Math.round(run.from * 100) / 100)} to ${bpmText(Math.round(run.to * 100) / 100)} BPM`,
      beside: `${notatedBeat(meterAt(map, run.fromTick)).quarters === 1 ? '' : 'of the quarter; '}${besideChange(run, end)}`,
      handle,
      remove: { operation: 'timing.tempos', settings: { ...removeHandle(tempos, handle) } },
    };
  });
}

const besideChange = ({ first, last, shape, deviation }: GradualRun, end: Position): string =>
  `until ${end.bar}.${end.beat}${end.tick > 0 ? `.${end.tick}` : ''}, evenly ${shape}; ${count(last - first, 'step')}, at most ${(deviation * 1000).toFixed(1)} ms off`;

function signatureRows({ timing }: SongView, map: MeterMap): MapRow[] {
  const clickAt = new Map(timing.clicks.map((c) => [c.atTick, c]));
  const stated = new Set(timing.meters.map((m) => m.atTick));
  const meters = [...timing.meters, ...timing.clicks.filter((c) => !stated.has(c.atTick))]
    .filter(
      (m) => m.atTick > 0 || m.numerator !== 4 || m.denominator !== 4 || clickAt.has(m.atTick),
    )
    .map((m): MapRow => {
      const place = positionAt(map, m.atTick);
      const click = clickAt.get(m.atTick);
      const where = { ...place };
      return {
        kind: 'meter',
        atTick: m.atTick,
        place,
        says: `${m.numerator}/${m.denominator}`,
        ...cutShort(map, m.atTick),
        ...(click ? { beside: clickWords(click) } : {}),
        edit: {
          operation: 'timing.meter',
          settings: { ...where, numerator: m.numerator, denominator: String(m.denominator) },
          bars: 'all',
        },
        remove: { operation: 'timing.meter', settings: { ...where, remove: true } },
      };
    });
  const keys = timing.keys.map((k): MapRow => {
    const place = positionAt(map, k.atTick);
    return {
      kind: 'key',
      atTick: k.atTick,
      place,
      says: keySignatureText(k.sharps, k.minor),
      edit: {
        operation: 'timing.key',
        settings: { ...place, sharps: k.sharps, minor: k.minor },
        bars: 'all',
      },
      remove: { operation: 'timing.key', settings: { ...place, remove: true } },
    };
  });
  return [...meters, ...keys];
}

/** What a meter says of its click, where that is not what is usual (SMF 1.0). */
const clickWords = ({ clocks, thirtySeconds }: SongView['timing']['clicks'][number]): string =>
  [
    `clicks every ${count(clocks, 'MIDI clock')}`,
    thirtySeconds !== 8 && `${count(thirtySeconds, 'thirty-second')} a quarter`,
  ]
    .filter(Boolean)
    .join(', ');

/** A meter inside a bar of the one before it cuts that bar short. */
function cutShort(map: MeterMap, atTick: number): { beside?: string } {
  const cut = cutBar(map, atTick);
  return cut ? { beside: `cuts bar ${cut.bar} short: ${cut.beats} of ${cut.of} beats` } : {};
}

function markRows({ timing, tracks }: SongView, map: MeterMap): MapRow[] {
  const inTrack = (id: string): string | undefined => {
    const at = tracks.findIndex((t) => t.id === id);
    return at > 0 ? `in ${tracks[at]!.name || `track ${at + 1}`}` : undefined;
  };
  const beside = (...said: (string | undefined)[]): { beside?: string } =>
    ((text) => (text ? { beside: text } : {}))(said.filter(Boolean).join('; '));
  const marked = ({ travels, anchor }: Pick<MarkRow, 'travels' | 'anchor'>) => [
    anchor === 'time' ? 'stays at its time' : undefined,
    travels ? undefined : 'not sent',
  ];
  const lists = [
    ['marker', timing.markers],
    ['cue point', timing.cuePoints],
    ['text', timing.texts],
  ] as const;
  const marks = lists.flatMap(([kind, list]) =>
    list.map((m): MapRow => ({
      kind,
      atTick: m.atTick,
      place: positionAt(map, m.atTick),
      says: m.text || '(no text)',
      ...beside(inTrack(m.track), ...marked(m)),
      mark: {
        kind,
        text: m.text,
        atTick: m.atTick,
        track: m.track,
        travels: m.travels,
        anchor: m.anchor,
      },
      remove: {
        operation: 'timing.marks',
        settings: { gone: [{ atTick: m.atTick, kind, text: m.text, track: m.track }] },
      },
    })),
  );
  const sections = timing.sections.map((s): MapRow => {
    const mark = {
      kind: 'section',
      text: s.name,
      atTick: s.fromTick,
      toTick: s.toTick,
      track: s.track,
      travels: s.travels,
      anchor: s.anchor,
    } as const;
    return {
      kind: 'section',
      atTick: s.fromTick,
      place: positionAt(map, s.fromTick),
      says: s.name,
      ...beside(`until ${s.to.replace(/\.0$/, '')}`, inTrack(s.track), ...marked(s)),
      mark,
      remove: { operation: 'timing.marks', settings: { gone: marksOf(mark) } },
    };
  });
  return [...marks, ...sections];
}

/** The events that say a mark: a section is two markers. */
export const marksOf = ({
  kind,
  text,
  atTick,
  toTick,
}: Pick<MarkRow, 'kind' | 'text' | 'atTick' | 'toTick'>): {
  atTick: number;
  kind: 'marker' | 'cue point' | 'text';
  text: string;
}[] =>
  kind === 'section'
    ? [
        { atTick, kind: 'marker', text },
        { atTick: toTick!, kind: 'marker', text: endText(text) },
      ]
    : [{ atTick, kind, text }];
