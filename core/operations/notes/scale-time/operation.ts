import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { META, meta, type Events } from '../../../smf/events.ts';
import { spanOf, type TickSpan } from '../../../song/scope.ts';
import { sameTime, type TimeMap } from '../../../timing/time-map.ts';
import {
  counted,
  inTracks,
  rewriteTracks,
  totalOf,
  inTicks,
  type Edited,
} from '../../../edit/rewrite.ts';
import { noteTicks, retimeNotes, sortedByTick } from '../../../edit/retime.ts';
import { kindOf } from '../../../edit/event-kinds.ts';
import { defineOperation } from '../../operation.ts';

const times = z.int().min(1).max(64);
/** Metas that go with a part's playing; the others are the song's own and stay. */
const playing: ReadonlySet<number> = new Set([meta.lyric, meta.text]);

export const notesScaleTime = defineOperation({
  id: 'notes.scale-time',
  version: 1,
  title: 'Scale time',
  summary:
    'Stretches or shrinks what lies in the scope by a ratio, counted from where the scope begins; the tempo map stays.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    multiply: times.default(2).meta({ title: 'Multiply by' }),
    divide: times.default(1).meta({ title: 'Divide by' }),
    what: z.enum(['everything played', 'notes only']).default('everything played').meta({
      title: 'What moves',
      description: 'Everything played: notes, controllers, programs, bend, lyrics.',
    }),
  }),
  apply(song, { multiply, divide, what }, scope) {
    const span = spanOf(song, scope);
    if (!span.ok) return span;
    const { from } = span.value;
    const at = (tick: number): number => from + ((tick - from) * multiply) / divide;
    // Of what is chosen by hand, its notes.
    const ofNotes = what === 'notes only' || scope.rows !== undefined;
    const done = rewriteTracks(song, scope, (events, own) =>
      ofNotes
        ? retimeNotes(events, own, (place) => ({ from: at(place.from), to: at(place.to) }))
        : scaled(events, (tick) => inTicks(span.value, tick), at),
    );
    if (!done.ok || ofNotes) return done;
    const changed = done.value.report.changes.map((c) => c.track!);
    return ok({
      ...done.value,
      moves: {
        song: sameTime,
        tracks: Object.fromEntries(
          changed.map((id) => [id, scaledSpan(span.value, multiply / divide)]),
        ),
      },
    });
  },
  describe: ({ multiply, divide }, report) =>
    `Scaled time × ${multiply}${divide === 1 ? '' : `/${divide}`} for ${counted(totalOf(report), 'event')} ${inTracks(report)}`,
  examples: [
    { says: 'Twice as long', settings: {} },
    { says: 'Three in the time of two', settings: { multiply: 2, divide: 3, what: 'notes only' } },
  ],
});

/** Time stretched in a span; behind it everything stays where it was. */
function scaledSpan({ from, to }: TickSpan, scale: number): TimeMap {
  const before: TimeMap = from > 0 ? [{ from: 0, until: from, to: 0, scale: 1 }] : [];
  const behind: TimeMap = to < Infinity ? [{ from: to, until: null, to, scale: 1 }] : [];
  return [...before, { from, until: to < Infinity ? to : null, to: from, scale }, ...behind];
}

/**
 * Every played event of the span at its new tick; a note that begins in the span ends with it, wherever its
 * end lay.
 */
function scaled(
  events: Events,
  inSpan: (tick: number) => boolean,
  at: (tick: number) => number,
): Edited {
  const { atTick, rank, moved } = noteTicks(events, { from: 0, to: Infinity }, (place) =>
    inSpan(place.from) ? { from: at(place.from), to: at(place.to) } : place,
  );
  const counts: Record<string, number> = moved > 0 ? { note: moved } : {};
  for (let i = 0; i < events.count - 1; i++) {
    const status = events.status[i]!;
    if (
      status < 0xa0 ||
      (status === META && !playing.has(events.data1[i]!)) ||
      !inSpan(events.atTick[i]!)
    )
      continue;
    const tick = Math.round(at(events.atTick[i]!));
    if (tick === atTick[i]) continue;
    atTick[i] = tick;
    const kind = kindOf(events, i) ?? 'other';
    counts[kind] = (counts[kind] ?? 0) + 1;
  }
  return Object.keys(counts).length === 0
    ? { left: 'Nothing there moves.' }
    : { events: sortedByTick(events, atTick, rank), counts };
}
