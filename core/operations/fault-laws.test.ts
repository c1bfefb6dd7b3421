import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { exampleSources, exampleSteps } from '../../tests/support/examples.ts';
import { controller, note, songOf } from '../../tests/support/songs.ts';
import { channelEvent, eventValues, meta, metaEvent, type EventValue } from '../smf/events.ts';
import type { Song } from '../song/song.ts';
import { operations } from './index.ts';
import { runStep, type StepRequest } from './run.ts';

/** 96 PPQ, no meter: bars of 384 ticks. */
const bar = 384;
const bars = 6;

/** A part whose notes never overlap on a key: close together, long and short, some on bar lines. */
const part = (channel: number) =>
  fc
    .array(
      fc.tuple(
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 1, max: 200 }),
        fc.constantFrom(3, 60, 61, 62, 64, 124),
        fc.integer({ min: 1, max: 127 }),
      ),
      { minLength: 4, maxLength: 60 },
    )
    .map((steps) => {
      const free = new Map<number, number>();
      const events: EventValue[] = [];
      let at = 0;
      for (const [wait, length, key, velocity] of steps) {
        at = Math.max(at + wait, free.get(key) ?? 0);
        if (at + length > bars * bar) break;
        events.push(
          ...note(at, length, key, velocity, channel),
          controller(at, 11, velocity, channel),
          channelEvent(at + 1, 0xa0 | channel, key, 50),
        );
        free.set(key, at + length);
      }
      return [
        ...events,
        metaEvent((bars + 4) * bar, meta.endOfTrack),
        controller(bar * 2, 11, 90, channel),
        controller(bar * 3, 7, 80, channel),
      ].sort((a, b) => a.atTick - b.atTick || a.status - b.status);
    });
const song = fc.tuple(part(0), part(1), part(0)).map((parts) => songOf(...parts));

interface PlainNote {
  readonly from: number;
  readonly to: number;
  readonly says: string;
}

/**
 * Notes of a track by a reading of its own: a key's first note-on ends with its first note-off. And how
 * many begin while their key sounds.
 */
function notesIn(events: readonly EventValue[]): { notes: PlainNote[]; faults: number } {
  const open = new Map<number, { from: number; velocity: number }[]>();
  const notes: PlainNote[] = [];
  let faults = 0;
  for (const { atTick, status, data1, data2 } of events) {
    if (status >> 4 !== 8 && status >> 4 !== 9) continue;
    const id = ((status & 15) << 7) | data1;
    const waiting = open.get(id) ?? [];
    if (status >> 4 === 9 && data2 > 0) {
      if (waiting.length > 0) faults++;
      open.set(id, [...waiting, { from: atTick, velocity: data2 }]);
      continue;
    }
    const first = waiting.shift();
    if (!first) continue;
    if (first.from === atTick) faults++;
    notes.push({
      from: first.from,
      to: atTick,
      says: `${id} ${first.from} ${atTick} ${first.velocity}`,
    });
  }
  for (const waiting of open.values()) faults += waiting.length;
  return { notes, faults };
}

const faultsIn = (song: Song): number =>
  song.tracks.reduce((sum, t) => sum + notesIn(eventValues(t.events)).faults, 0);
const named = (of: readonly StepRequest[]) =>
  of.map((r) => [`${r.operation} ${JSON.stringify(r.settings)}`, r] as const);
/** Steps that move notes and leave their keys: they make no fault at all. */
const moves = new Set([
  'notes.humanise',
  'notes.quantise',
  'notes.nudge',
  'notes.lengths',
  'notes.scale-time',
]);

describe('issue 10.5: a step makes no fault that the look-over would report, unless its report names it', () => {
  it.each(named(exampleSteps))('%s', (_, request) => {
    fc.assert(
      fc.property(song, (before) => {
        expect(faultsIn(before)).toBe(0);
        const done = runStep(before, request, exampleSources);
        if (!done.ok) return;
        const made = faultsIn(done.value.song);
        if (moves.has(request.operation)) expect(made).toBe(0);
        if (made > 0)
          expect(done.value.report.told?.join(' ')).toMatch(/more than before: [\d,]+ /);
      }),
      { seed: 12, numRuns: scaleRuns(80) },
    );
  });
});

describe('issue 10.3: nothing outside the bars of a scope changes', () => {
  const withBars = exampleSteps.filter(
    (r) => operations.find((o) => o.id === r.operation)!.scope === 'events',
  );

  it.each(named(withBars))('%s', (_, request) => {
    fc.assert(
      fc.property(
        song,
        fc.integer({ min: 1, max: bars }),
        fc.integer({ min: 0, max: 3 }),
        (before, from, more) => {
          const [start, end] = [(from - 1) * bar, (from + more) * bar];
          const done = runStep(
            before,
            {
              ...request,
              scope: {
                tracks: 'all',
                ...(request.scope as object),
                bars: { from, to: from + more },
              },
            },
            exampleSources,
          );
          if (!done.ok) return;
          const outside = (tick: number): boolean => tick < start || tick >= end;
          before.tracks.forEach((track, n) => {
            const after = done.value.song.tracks.find((t) => t.id === track.id);
            if (!after) return;
            const [old, now] = [eventValues(track.events), eventValues(after.events)];
            const kept = new Set(notesIn(now).notes.map((o) => o.says));
            // Notes that begin outside are what they were, but for one that the next of its key, moved from
            // within, cuts.
            // A key that was made to sound on another note's is told, and pairs anew.
            const told = done.value.report.told?.some((say) => say.includes('more than before'));
            for (const its of told ? [] : notesIn(old).notes)
              if (outside(its.from) && !(moves.has(request.operation) && its.to >= start - bar))
                expect(kept, `track ${n + 1}`).toContain(its.says);
            // What a part played with before is said again where the bars end.
            const isBehind = (e: EventValue): boolean =>
              request.operation === 'tracks.instrument' &&
              e.atTick === end &&
              (e.status >> 4 === 0xc || (e.status >> 4 === 0xb && [0, 32].includes(e.data1)));
            const rest = (events: readonly EventValue[]) =>
              events
                .filter((e) => e.status < 0xf0 && e.status >> 4 >= 0xb && outside(e.atTick))
                .filter((e) => !isBehind(e))
                .map((e) => `${e.atTick} ${e.status} ${e.data1} ${e.data2}`);
            // What is stretched in time may come to lie behind the scope; what was there stays.
            if (request.operation === 'notes.scale-time')
              expect(rest(now)).toEqual(expect.arrayContaining(rest(old)));
            else expect(rest(now), `track ${n + 1}`).toEqual(rest(old));
          });
        },
      ),
      { seed: 13, numRuns: scaleRuns(80) },
    );
  });
});
