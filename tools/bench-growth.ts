import { makeHandoff } from '#core/handoff/handoff.ts';
import { lookOver } from '#core/looking/look-over.ts';
import { operations } from '#core/operations/index.ts';
import { runStep, sourcesOf, type StepRequest } from '#core/operations/run.ts';
import { sourceKey } from '#core/operations/sources.ts';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, metaEvent, type EventValue } from '#core/smf/events.ts';
import { readSmf } from '#core/smf/read.ts';
import { encodeText } from '#core/smf/text.ts';
import { writeSmf } from '#core/smf/write.ts';
import { songsFromSmf } from '#core/song/from-smf.ts';
import { summariseSong } from '#core/song/song-summary.ts';
import type { Song } from '#core/song/song.ts';

/**
 * What grows faster than its input: every operation, the look-over, the summary, reading and the handoff,
 * over songs of one thing at 1, 4 and 16 times. A cost in proportion is 16 times; what is far beyond is
 * named.
 */
const song = (tracks: readonly (readonly EventValue[])[]): Song => {
  const made = {
    format: 1 as const,
    division: { kind: 'ppq' as const, ticksPerQuarter: 480 },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    tracks: tracks.map((t) => ({ events: eventsFrom(t) })),
  };
  const reading = readSmf(writeSmf(made));
  if (!reading.ok) throw new Error(reading.problem.code);
  return songsFromSmf(reading.value.smf, 'growth.mid')[0]!;
};

const many = <T>(n: number, make: (i: number) => T | T[]): T[] =>
  Array.from({ length: n }, (_, i) => make(i)).flat() as T[];
const notes = (n: number, channel = 0): EventValue[] =>
  many(n, (i) => [
    channelEvent(i * 240, 0x90 | channel, 40 + (i % 40), 1 + (i % 100)),
    channelEvent(i * 240 + 200, 0x80 | channel, 40 + (i % 40), 64),
  ]);
const name = (text: string): EventValue => metaEvent(0, 3, encodeText(text));

/** Songs that have much of one thing; at 1 they are small enough for 16 times to end soon. */
const kinds: Readonly<Record<string, (times: number) => Song>> = {
  notes: (x) => song([notes(1000 * x)]),
  tracks: (x) => song(many(500 * x, (i) => [[name(`part ${i}`), ...notes(4, i % 16)]])),
  'notes on one tick': (x) =>
    song([
      many(500 * x, (i) => [
        channelEvent(0, 0x90, i % 128, 64),
        channelEvent(480, 0x80, i % 128, 64),
      ]),
    ]),
  'notes of one key': (x) =>
    song([
      many(500 * x, (i) => [
        channelEvent(i, 0x90, 60, 64),
        channelEvent(500 * x + i, 0x80, 60, 64),
      ]),
    ]),
  tempos: (x) =>
    song([
      many(500 * x, (i) => metaEvent(i * 480, 0x51, Uint8Array.of(7, i & 255, (i * 7) & 255))),
      notes(500),
    ]),
  meters: (x) =>
    song([
      many(250 * x, (i) => metaEvent(i * 960, 0x58, Uint8Array.of(2 + (i % 3), 2, 24, 8))),
      notes(500),
    ]),
  markers: (x) =>
    song([many(500 * x, (i) => metaEvent(i * 480, 6, encodeText(`mark ${i}`))), notes(500)]),
  'marks of one name': (x) =>
    song([
      many(500 * x, (i) => metaEvent(i * 480, 6, encodeText(i % 2 ? 'A (end)' : 'A'))),
      notes(500),
    ]),
  prefixes: (x) =>
    song([
      [
        ...many(500 * x, (i) => [
          metaEvent(i * 10, 0x20, Uint8Array.of(i % 16)),
          metaEvent(i * 10, 4, encodeText('x')),
        ]),
        ...notes(100),
      ],
    ]),
  programs: (x) =>
    song([
      [
        ...many(500 * x, (i) => [
          channelEvent(i * 480, 0xb0, 0, i & 127),
          channelEvent(i * 480, 0xc0, i & 127),
        ]),
        ...notes(100),
      ],
    ]),
  controllers: (x) =>
    song([
      [...many(2000 * x, (i) => channelEvent(i * 10, 0xb0, 1 + (i % 8), i & 127)), ...notes(100)],
    ]),
  names: (x) =>
    song(
      Array.from({ length: 100 }, (_, i) => [
        name('long name '.repeat(20 * x)),
        ...notes(8, i % 16),
      ]),
    ),
  texts: (x) =>
    song([[...many(500 * x, (i) => metaEvent(i * 10, 1, encodeText(`text ${i}`))), ...notes(100)]]),
};

function timeOf(work: () => unknown): number {
  let best = Infinity;
  const until = performance.now() + 120;
  for (let n = 0; n < 3 || (performance.now() < until && n < 8); n++) {
    const began = performance.now();
    work();
    best = Math.min(best, performance.now() - began);
    if (best > 400) break;
  }
  return best;
}

/** Forgets what is remembered of a song, so that each round works anew. */
const anew = (s: Song): Song => ({
  ...s,
  tracks: s.tracks.map((t) => ({ ...t, events: { ...t.events } })),
});

/** What a step takes from outside is the very song. */
const runExample = (s: Song, request: StepRequest): unknown =>
  runStep(s, request, new Map(sourcesOf(request).map((source) => [sourceKey(source), s])));

function works(): Readonly<Record<string, (s: Song) => unknown>> {
  const steps = operations.flatMap((o) =>
    o.byHand
      ? []
      : o.examples.slice(0, 1).map(
          (e) =>
            [
              o.id,
              (s: Song): unknown =>
                runExample(anew(s), {
                  operation: o.id,
                  settings: e.settings,
                  scope: e.scope ?? { tracks: 'all' },
                }),
            ] as const,
        ),
  );
  return {
    reading: (s) => readSmf(writeSmf({ ...s, format: 1 })),
    summary: (s) => summariseSong(anew(s)),
    'look-over': (s) => lookOver(anew(s)),
    handoff: (s) =>
      makeHandoff(
        anew(s),
        { received: s, asRead: s },
        { format: 0, runningStatus: true, chunks: true },
      ),
    ...Object.fromEntries(steps),
  };
}

/**
 * Times that 16 times the input may cost, garbage and caches of a busy machine allowed for; and what is too
 * short to be judged.
 */
const allowed = 40;
const leastMs = 12;

export function growth(print: (line: string) => void): number {
  let beyond = 0;
  for (const [kind, make] of Object.entries(kinds)) {
    const songs = [1, 4, 16].map(make);
    const took = Object.entries(works()).map(([what, work]) => ({
      what,
      ms: songs.map((s) => timeOf(() => work(s))),
    }));
    const ratios = took
      .map(({ what, ms }) => ({ what, ms, ratio: ms[2]! / Math.max(ms[0]!, 0.3) }))
      .sort((a, b) => b.ms[2]! - a.ms[2]!);
    const far = ratios.filter((r) => r.ratio > allowed && r.ms[2]! > leastMs);
    beyond += far.length;
    const slowest = ratios
      .slice(0, 3)
      .map(({ what, ms }) => `${what} ${ms.map((m) => m.toFixed(m < 10 ? 1 : 0)).join(' / ')}`);
    print(
      `  ${kind.padEnd(20)} slowest at 1 / 4 / 16 times, ms: ${slowest.join('; ')}${far.length > 0 ? `; FASTER THAN THE INPUT: ${far.map((r) => `${r.what} ${r.ratio.toFixed(0)} times`).join(', ')}` : ''}`,
    );
  }
  return beyond;
}
