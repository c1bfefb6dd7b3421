import { ok, refused, type Result } from '../../problems/problems.ts';
import { META, meta, type Events, type EventValue } from '../../smf/events.ts';
import { eventsFrom } from '../../smf/event-builder.ts';
import { mergeEvents } from '../../smf/merge.ts';
import { trackLabel, withEvents, type Song, type Track } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { barTick, meterAt, type MeterMap } from '../../timing/meter-map.ts';
import type { TimeMap } from '../../timing/time-map.ts';
import { meterEvent, tempoEvent } from '../edit-map.ts';
import { keepLengths, keptLengthWords } from '../least-length.ts';
import type { Applied, Change } from '../report.ts';
import { sortedByTick } from '../retime.ts';
import { without } from '../rewrite.ts';
import { meantType } from '../../smf/own-events.ts';
import { barsOf, laidOnMap, type PlainMeter } from './laid-out.ts';
import { saidOnce } from '../sets-up.ts';
import { ofBars } from './map-again.ts';

export interface Stretching {
  readonly from: number;
  /** The bar behind the last. */
  readonly to: number;
  /** How many bars they are to be. */
  readonly bars: number;
  readonly meter?: PlainMeter | undefined;
  readonly keepsSeconds: boolean;
  readonly tracks: readonly Track[];
}

/** Bars made longer or shorter, so that they are another number of bars; what follows moves with them. */
export function stretched(song: Song, asked: Stretching): Result<Applied> {
  const alone = asked.tracks.length < song.tracks.length;
  const { map } = barsOf(song);
  const [from, to] = [barTick(map, asked.from), barTick(map, asked.to)];
  const until = alone
    ? barTick(map, asked.from + asked.bars)
    : asked.meter
      ? from + (quarterOf(map) * 4 * asked.meter.numerator * asked.bars) / asked.meter.denominator
      : from + ((to - from) * asked.bars) / (asked.to - asked.from);
  const refusal = cannot(song, asked, alone, map);
  if (refusal) return refusal;
  const scale = (until - from) / (to - from);
  const place = (tick: number): number =>
    tick < from ? tick : tick < to ? from + (tick - from) * scale : tick + (until - to);
  const moving = new Set(asked.tracks);
  /** Meters and tempos of these bars that others take the place of. */
  const anew = new Set<number>([
    ...(asked.meter ? [meta.timeSignature] : []),
    ...(asked.keepsSeconds ? [meta.tempo] : []),
  ]);
  const saidAnew = ({ atTick, status, data1 }: Events, row: number): boolean =>
    status[row] === META && anew.has(data1[row]!) && atTick[row]! >= from && atTick[row]! <= to;
  const changes: Change[] = [];
  const tracks = song.tracks.map((track, n): Track => {
    if (!moving.has(track)) return track;
    const bent = warped(
      without(track.events, (row) => saidAnew(track.events, row)) ?? track.events,
      place,
      alone,
    );
    const added = n === 0 && !alone ? mapEvents(song, asked, map, { from, to, until, scale }) : [];
    const events = added.length > 0 ? mergeEvents([eventsFrom(added), bent.events]) : bent.events;
    if (bent.moved === 0 && added.length === 0) return track;
    const words = keptLengthWords(bent.kept);
    changes.push({
      track: track.id,
      name: trackLabel(song, track),
      did: 'changed',
      counts: { event: bent.moved + added.length },
      ...(words ? { detail: words } : {}),
    });
    return withEvents(track, events);
  });
  if (changes.length === 0 || scale === 1)
    return ok({ song, report: { changes: [], skipped: [{ why: 'They are that long already.' }] } });
  const moved: TimeMap = [
    ...(from > 0 ? [{ from: 0, until: from, to: 0, scale: 1 }] : []),
    { from, until: to, to: from, scale },
    { from: to, until: null, to: until, scale: 1 },
  ];
  return ok({
    song: { ...song, tracks },
    report: { changes, skipped: [] },
    moves: alone
      ? {
          song: [{ from: 0, until: null, to: 0, scale: 1 }],
          tracks: Object.fromEntries(asked.tracks.map((t) => [t.id, moved])),
        }
      : { song: moved },
  });
}

const quarterOf = (map: MeterMap): number => (map[0]!.beatTicks * map[0]!.denominator) / 4;

/** Why bars cannot be stretched so: their meters, those of what follows, or the tempos. */
function cannot(
  song: Song,
  asked: Stretching,
  alone: boolean,
  map: MeterMap,
): Result<Applied> | undefined {
  const refusal = (field: string, expected: string, found: string): Result<Applied> =>
    refused({ code: 'settings-invalid', where: { field: `settings.${field}` }, expected, found });
  if (alone && asked.keepsSeconds)
    return refusal('music', '“changes its speed”, where other tracks stay', 'keeps its seconds');
  if (alone && asked.meter) return refusal('meter', 'no meter, where other tracks stay', 'one');
  if (alone) {
    const laid = laidOnMap(song, [
      { from: 1, to: asked.from },
      { empty: asked.bars },
      { from: asked.to, to: Infinity },
    ]);
    const other = Array.from({ length: asked.bars }, (_, n) => asked.from + n).find(
      (bar) => meterAt(map, barTick(map, bar)) !== meterAt(map, barTick(map, asked.from)),
    );
    if (other !== undefined)
      return refused({
        code: 'bars-clash',
        where: { field: 'settings.bars' },
        bar: asked.from,
        at: other,
      });
    if ('clash' in laid)
      return refused({
        code: 'bars-clash',
        where: { field: 'settings.bars' },
        bar: laid.clash.bar,
        at: laid.clash.at,
      });
  }
  const inside = map.filter((s) => s.bar > asked.from && s.bar < asked.to);
  const factor = asked.bars / (asked.to - asked.from);
  const borders = [...inside.map((s) => s.bar), asked.to];
  const uneven = borders.some((bar) => !Number.isInteger((bar - asked.from) * factor));
  if (inside.length > 0 && uneven && !asked.meter)
    return refusal(
      'bars',
      'a number of bars in which each meter has whole bars, or one meter for all',
      String(asked.bars),
    );
  if (!asked.keepsSeconds) return undefined;
  if (song.division.kind === 'smpte')
    return refusal(
      'music',
      '“changes its speed” in a song that counts in frames',
      'keeps its seconds',
    );
  const slowest = timingOf(song).tempos.reduce((most, t) => Math.max(most, t.tempo), 500_000);
  return slowest / factor > 0xffffff
    ? refusal('bars', 'tempos that a file can say (above 3.6 BPM)', `${asked.bars} bars`)
    : undefined;
}

interface Span {
  readonly from: number;
  readonly to: number;
  readonly until: number;
  readonly scale: number;
}

/** The meter that is said, and what held before behind it; the tempos of bars that keep their seconds. */
function mapEvents(
  song: Song,
  { meter, keepsSeconds }: Stretching,
  map: MeterMap,
  { from, to, until, scale }: Span,
): EventValue[] {
  const behind = meterAt(map, to);
  const meters = meter
    ? [
        meterEvent(from, meter.numerator, meter.denominator),
        meterEvent(Math.round(until), behind.numerator, behind.denominator),
      ]
    : [];
  if (!keepsSeconds) return meters;
  const { tempos } = timingOf(song);
  const at = (tick: number): number => tempos.findLast((t) => t.atTick <= tick)?.tempo ?? 500_000;
  const inside = tempos.filter((t) => t.atTick > from && t.atTick < to);
  return [
    ...meters,
    tempoEvent(from, Math.round(at(from) / scale)),
    ...inside.map((t) =>
      tempoEvent(Math.round(from + (t.atTick - from) * scale), Math.round(t.tempo / scale)),
    ),
    tempoEvent(Math.round(until), at(to)),
  ];
}

/** A track's events at other ticks; what sets it up stays, and the map where the track moves alone. */
function warped(
  events: Events,
  place: (tick: number) => number,
  alone: boolean,
): { events: Events; moved: number; kept: number } {
  const atTick = events.atTick.slice();
  let moved = 0;
  for (let i = 0; i < events.count; i++) {
    const type = events.status[i] === META ? meantType(events, i) : undefined;
    if (type !== undefined && (saidOnce.has(type) || (alone && ofBars.has(type)))) continue;
    atTick[i] = Math.round(place(atTick[i]!));
    if (atTick[i] !== events.atTick[i]) moved++;
  }
  const rank = new Int8Array(events.count);
  const kept = keepLengths(events, atTick, rank);
  return { events: sortedByTick(events, atTick, rank), moved, kept };
}
