import { refused, ok, type Result } from '../../problems/problems.ts';
import { META, endTick, meta, type EventValue, type Events } from '../../smf/events.ts';
import { hasLane } from '../excerpt/excerpt.ts';
import { trackLabel, withEvents, withParked, type Song, type Track } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { quarterTicks } from '../../timing/meter-map.ts';
import type { Moves } from '../../timing/time-map.ts';
import { mostEvents } from '../../smf/read.ts';
import { sameEvents } from '../../smf/compare.ts';
import { counted } from '../rewrite.ts';
import type { Applied, Change } from '../report.ts';
import { laidOnMap, laidOut, type Part } from './laid-out.ts';
import { mapAgain, staying, type MapAgain } from './map-again.ts';
import { marksMoved, type MarksMoved } from './marks-moved.ts';
import { notesOver, type NotesOver } from './notes-over-edges.ts';
import { saidAgain, type SaidAgain } from './said-again.ts';
import { endOf, isAsItWas, timeMapOf, type Arrangement } from './stretches.ts';
import type { HowArranged } from './how.ts';
import { toldOf } from './told.ts';
import { firstRow } from './values-at.ts';
import { order, woven, type Put } from './woven.ts';

/** The bars of a song in another order, with all that goes with them: see `docs/decisions`. */
export function arrange(song: Song, parts: readonly Part[], how: HowArranged): Result<Applied> {
  const mapStays = how.mapStays === true || how.tracks.length < song.tracks.length;
  const laid = mapStays ? laidOnMap(song, parts) : laidOut(song, parts);
  if ('clash' in laid)
    return refused({
      code: 'bars-clash',
      where: { field: 'scope.tracks' },
      bar: laid.clash.bar,
      at: laid.clash.at,
    });
  const { arrangement } = laid;
  if (isAsItWas(arrangement))
    return ok({ song, report: { changes: [], skipped: [{ why: 'Nothing would be elsewhere.' }] } });
  const much = tooMuch(how.tracks, arrangement);
  if (much) return much;
  const meters = 'meters' in laid ? laid.meters : [];
  const unsaid = 'unsaid' in laid ? laid.unsaid : [];
  const arranged = new Arranged(song, arrangement, { ...how, mapStays }, meters);
  const map = timeMapOf(arrangement);
  const moves: Moves = mapStays
    ? {
        song: [{ from: 0, until: null, to: 0, scale: 1 }],
        tracks: Object.fromEntries(how.tracks.map((t) => [t.id, map])),
      }
    : { song: map };
  const { tracks, changes } = arranged.result();
  if (changes.length === 0)
    return ok({ song, report: { changes: [], skipped: [{ why: 'Nothing is there.' }] } });
  const after = { ...song, tracks };
  return ok({
    song: after,
    report: {
      changes,
      skipped: [],
      ...toldOf(song, after, {
        ...{ arrangement, mapStays, unsaid, how },
        said: arranged.said,
        kept: arranged.marks?.kept ?? [],
      }),
    },
    moves,
  });
}

/** More joins than a hand would make, over all tracks. */
const mostJoins = 2_000_000;

function tooMuch(
  tracks: readonly Track[],
  { stretches }: Arrangement,
): Result<Applied> | undefined {
  let rows = 0;
  if (stretches.length * tracks.length <= mostJoins)
    for (const { events } of tracks)
      for (const { from, to } of stretches)
        rows +=
          (to === Infinity ? events.count : firstRow(events, to)) -
          (from === 0 ? 0 : firstRow(events, from));
  else rows = Infinity;
  if (rows <= mostEvents) return undefined;
  return refused({
    code: 'settings-invalid',
    where: { field: 'settings' },
    expected: `at most ${mostEvents.toLocaleString('en')} events, and fewer joins`,
    found:
      rows === Infinity
        ? `${stretches.length} spans of bars`
        : `${rows.toLocaleString('en')} events`,
  });
}

/** In fewer ticks a quarter, one tick is time that is heard. */
const fineTicks = 24;

/** A part of a note shorter than a 32nd is a note begun a little early or held a little long. */
const sliverOf = (song: Song): number => quarterTicks(song.division) / 8;

class Arranged {
  readonly said: SaidAgain;
  private readonly notes: ReadonlyMap<string, NotesOver>;
  private readonly map: MapAgain | undefined;
  readonly marks: MarksMoved | undefined;
  private readonly moving: ReadonlySet<string>;

  private readonly song: Song;
  private readonly arrangement: Arrangement;
  private readonly how: HowArranged & { mapStays: boolean };
  private readonly meters: readonly EventValue[];

  constructor(
    song: Song,
    arrangement: Arrangement,
    how: HowArranged & { mapStays: boolean },
    meters: readonly EventValue[],
  ) {
    this.song = song;
    this.arrangement = arrangement;
    this.how = how;
    this.meters = meters;
    this.moving = new Set(how.tracks.map((t) => t.id));
    const sliver = sliverOf(song);
    this.notes = new Map(
      how.tracks.map((t) => [t.id, notesOver(t.events, arrangement, how.edges, sliver)]),
    );
    this.said = saidAgain(
      how.tracks,
      arrangement,
      (track, join) => this.notes.get(track.id)!.struckOn[join]!,
      quarterTicks(song.division) >= fineTicks,
    );
    if (how.mapStays) return;
    this.map = mapAgain(song, how.tracks, arrangement);
    this.marks = marksMoved(song, arrangement.stretches);
  }

  result(): { tracks: Track[]; changes: Change[] } {
    const changes: Change[] = [];
    const tracks = this.song.tracks.map((track, n): Track => {
      if (!this.moving.has(track.id)) return track;
      const { made, change } = this.track(track, n === 0);
      if (change) changes.push(change);
      return made;
    });
    return { tracks, changes };
  }

  private track(track: Track, isFirst: boolean): { made: Track; change?: Change } {
    const { events } = track;
    const { stretches } = this.arrangement;
    const notes = this.notes.get(track.id)!;
    const stays = staying(this.song, track, this.arrangement, {
      mapStays: this.how.mapStays,
      isOverruled: (row) => this.isOverruled(track, row),
    });
    const marks = this.marks?.without.get(track.id);
    const puts: Put[] = [
      ...stays.puts,
      ...(isFirst ? this.meters.map((event): Put => ({ event, order: order.said })) : []),
      ...[...(this.map?.puts ?? []), ...(this.marks?.puts ?? [])]
        .filter((p) => p.track === track.id)
        .map((p) => p.put),
      ...(this.said.puts.get(track.id) ?? []),
      ...notes.puts,
    ];
    const runs = stretches.map((stretch, n) => ({
      stretch,
      rows: [
        firstRow(events, stretch.from),
        stretch.to === Infinity ? events.count - 1 : firstRow(events, stretch.to),
      ] as const,
      without: union([notes.without.of(n), stays.without.of(n), marks?.of(n)]),
    }));
    const now = woven(events, runs, puts, this.endOf(track));
    if (sameEvents(now, events)) return { made: track };
    const moved = withEvents(track, now);
    const made = moved.parked ? withParked(moved, moved.parked.filter(hasLane(now))) : moved;
    return { made, change: this.change(track, now, notes) };
  }

  /** Whether something else says at the beginning what a row says that sets a track or song up. */
  private isOverruled(track: Track, row: number): boolean {
    const { status, data1 } = track.events;
    const is = status[row]!;
    if (is === META) {
      const type = data1[row]!;
      if (type === meta.keySignature) return this.map?.keysOverruled.has(track.id) ?? false;
      if (type === meta.timeSignature) return this.map !== undefined && this.meterBegins();
      return this.map?.overruled.has(type) ?? false;
    }
    return is < 0xf0 && this.said.isOverruled(track, row);
  }

  /** Whether the song begins with another meter than it did. */
  private meterBegins(): boolean {
    const [first] = this.arrangement.stretches;
    const stands =
      first !== undefined &&
      first.at === 0 &&
      first.from > 0 &&
      timingOf(this.song).meters.some((m) => m.atTick === first.from);
    return stands || this.meters.some((m) => m.atTick === 0);
  }

  /** Where a track ends now: with the song, if it did; else where what it ended with does. */
  private endOf({ events }: Track): number {
    const { stretches, end } = this.arrangement;
    const was = endTick(events);
    if (end < Infinity && was >= timingOf(this.song).endTick && !this.how.mapStays) return end;
    return stretches.reduce(
      (latest, s) =>
        was > s.from ? Math.max(latest, was >= s.to ? endOf(s) : s.at + (was - s.from)) : latest,
      this.how.lengthStays ? was : 0,
    );
  }

  private change(track: Track, now: Events, notes: NotesOver): Change {
    const { cut, struck, ring, slivers } = notes;
    const again = this.said.puts.get(track.id)?.length ?? 0;
    const words = [
      cut > 0 ? `${counted(cut, 'note')} cut at an edge` : '',
      struck > 0 ? `${counted(struck, 'note')} struck anew behind one` : '',
      ring > 0 ? `${counted(ring, 'note')} kept whole over an edge` : '',
      slivers > 0 ? `${counted(slivers, 'part')} of notes shorter than a 32nd left off` : '',
      again > 0 ? `${counted(again, 'message')} said again where bars join` : '',
    ].filter((w) => w !== '');
    return {
      track: track.id,
      name: trackLabel(this.song, track),
      did: 'changed',
      counts: { event: changedEvents(track.events, now) },
      ...(words.length > 0 ? { detail: words.join('; ') } : {}),
    };
  }
}

function union(sets: readonly (ReadonlySet<number> | undefined)[]): ReadonlySet<number> {
  const full = sets.filter((s) => s !== undefined && s.size > 0) as ReadonlySet<number>[];
  if (full.length === 0) return nothing;
  return full.length === 1 ? full[0]! : new Set(full.flatMap((s) => [...s]));
}
const nothing: ReadonlySet<number> = new Set();

/** How many rows at the beginning of two tracks are alike, but for payloads. */
function alike(a: Events, b: Events): number {
  const most = Math.min(a.count, b.count);
  let row = 0;
  while (
    row < most &&
    a.atTick[row] === b.atTick[row] &&
    a.status[row] === b.status[row] &&
    a.data1[row] === b.data1[row] &&
    a.data2[row] === b.data2[row]
  )
    row++;
  return row;
}

/** How many events went, moved or came: all but those that stand at the beginning as they did. */
const changedEvents = (before: Events, after: Events): number =>
  Math.max(1, Math.max(before.count, after.count) - alike(before, after));
