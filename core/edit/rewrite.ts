import { ok, type Result } from '../problems/problems.ts';
import { pickEvents } from '../smf/event-builder.ts';
import { META, meta, type Events } from '../smf/events.ts';
import { markRows } from '../song/rows.ts';
import { spanOf, tracksIn, type Scope, type TickSpan } from '../song/scope.ts';
import { trackLabel, withEvents, withParked, type Song, type Track } from '../song/song.ts';
import type { Applied, Change, Report } from './report.ts';

/**
 * What an edit made of one track: its new events, and what it did to how many; or why it left the track as
 * it was. `parked` where its parked lanes go by other keys now.
 */
export type Edited =
  | {
      readonly events: Events;
      readonly counts: Readonly<Record<string, number>>;
      readonly detail?: string;
      readonly parked?: readonly string[];
    }
  | { readonly left: string };

/**
 * Puts `edit` to every track of a scope. Tracks that it leaves alone stay the same objects and stand in the
 * report with the reason.
 */
export function rewriteTracks(
  song: Song,
  scope: Scope,
  edit: (events: Events, span: TickSpan, track: Track) => Edited,
): Result<Applied> {
  const inScope = tracksIn(song, scope);
  if (!inScope.ok) return inScope;
  const span = spanOf(song, scope);
  if (!span.ok) return span;
  const changes: Change[] = [];
  const skipped: Report['skipped'][number][] = [];
  const rewritten = new Map<string, Track>();
  for (const track of inScope.value) {
    const name = trackLabel(song, track);
    const chosen = scope.rows?.[track.id];
    const own = chosen ? { ...span.value, rows: markRows(track.events, chosen) } : span.value;
    const edited = edit(track.events, own, track);
    if ('left' in edited) {
      skipped.push({ track: track.id, name, why: edited.left });
      continue;
    }
    rewritten.set(
      track.id,
      edited.parked
        ? withParked(withEvents(track, edited.events), edited.parked)
        : withEvents(track, edited.events),
    );
    changes.push({
      track: track.id,
      name,
      did: 'changed',
      counts: edited.counts,
      ...(edited.detail ? { detail: edited.detail } : {}),
    });
  }
  const report = { changes, skipped };
  if (changes.length === 0) return ok({ song, report });
  return ok({
    song: { ...song, tracks: song.tracks.map((t) => rewritten.get(t.id) ?? t) },
    report,
  });
}

export const inTicks = ({ from, to }: TickSpan, tick: number): boolean => tick >= from && tick < to;

/** Whether an event is meant: one of those that were chosen, where some were, else by where it stands. */
export const within = (span: TickSpan, { atTick }: Events, row: number): boolean =>
  span.rows ? span.rows[row] === 1 : inTicks(span, atTick[row]!);

export const isEnd = (events: Events, index: number): boolean =>
  events.status[index] === META && events.data1[index] === meta.endOfTrack;

/** The events without the rows that `drop` says; the end of track always stays. `undefined` where none goes. */
export function without(events: Events, drop: (index: number) => boolean): Events | undefined {
  const rows: number[] = [];
  for (let i = 0; i < events.count; i++) if (isEnd(events, i) || !drop(i)) rows.push(i);
  return rows.length === events.count ? undefined : pickEvents(events, rows);
}

/** Adds up what changed over all tracks, for one line: `totalOf(report, 'note')`. */
export const totalOf = ({ changes }: Report, kind?: string): number =>
  changes.reduce(
    (sum, c) =>
      sum +
      Object.entries(c.counts).reduce(
        (n, [k, count]) => n + (kind === undefined || k === kind ? count : 0),
        0,
      ),
    0,
  );

/** "1 note", "1,200 notes". */
export const counted = (n: number, what: string): string =>
  `${n.toLocaleString('en')} ${what}${n === 1 ? '' : 's'}`;

/** How many tracks a report changed, in words. */
export const inTracks = ({ changes }: Report): string =>
  changes.length === 1 ? `in ${changes[0]!.name}` : `in ${changes.length} tracks`;
