import { parseMidi } from 'midi-file';
import { read as readTs } from 'midifile-ts';
import MIDIFile from 'midifile';
import { isTrackAt, readUint32 } from '#core/smf/chunks.ts';
import { EventBuilder } from '#core/smf/event-builder.ts';
import { readSmf } from '#core/smf/read.ts';
import type { Smf } from '#core/smf/smf.ts';
import { writeSmf } from '#core/smf/write.ts';
import { lookOver } from '#core/looking/look-over.ts';
import { songsFromSmf } from '#core/song/from-smf.ts';
import type { Song } from '#core/song/song.ts';
import { summariseSong } from '#core/song/song-summary.ts';
import { operations } from '#core/operations/index.ts';
import { runStep } from '#core/operations/run.ts';
import { dice } from '#demo/theory.ts';
import { growth } from './bench-growth.ts';

/**
 * Median times in milliseconds, the contenders taking turns so that what else the machine does hits all alike.
 * A median has its share of collected garbage in it, as everyday use has.
 */
function race(rounds: number, contenders: readonly (() => unknown)[]): number[] {
  const times = contenders.map((): number[] => []);
  for (let round = 0; round <= rounds; round++) {
    contenders.forEach((work, i) => {
      const began = performance.now();
      work();
      // The first round warms up.
      if (round > 0) times[i]!.push(performance.now() - began);
    });
  }
  return times.map((t) => t.sort((a, b) => a - b)[t.length >> 1]!);
}

/** A song of about `events` events on sixteen tracks: notes, controllers, bends, as played. */
function song(events: number): Smf {
  const chance = dice(7);
  const tracks = Array.from({ length: 16 }, (_, channel) => {
    const out = new EventBuilder(events / 16);
    let tick = 0;
    for (let n = 0; n < events / 16 - 1;) {
      tick += Math.floor(chance() * 60);
      if (chance() < 0.3) {
        out.add(tick, 0xb0 | channel, 11, Math.floor(chance() * 128));
        n++;
        continue;
      }
      const key = 40 + Math.floor(chance() * 40);
      out.add(tick, 0x90 | channel, key, 20 + Math.floor(chance() * 100));
      out.add((tick += 30 + Math.floor(chance() * 300)), 0x80 | channel, key, 64);
      n += 2;
    }
    out.add(tick, 0xff, 0x2f, 0);
    return { events: out.finish(new Uint8Array(0)) };
  });
  return {
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 480 },
    headerExtra: new Uint8Array(0),
    tracks,
    alienChunks: [],
  };
}

/** The least that reading can be: every byte passed, times decoded, lengths of messages known, nothing kept. */
function bareScan(bytes: Uint8Array): number {
  let sum = 0;
  for (let at = 14; at < bytes.length;) {
    const end = at + 8 + readUint32(bytes, at + 4);
    if (!isTrackAt(bytes, at)) throw new Error('not a track');
    at += 8;
    let running = 0;
    while (at < end) {
      let delta = 0;
      let byte: number;
      do delta = (delta << 7) | ((byte = bytes[at++]!) & 0x7f);
      while (byte > 0x7f);
      sum += delta;
      let status = bytes[at]!;
      if (status > 0x7f) at++;
      else status = running;
      if (status === 0xff) {
        const length = bytes[at + 1]!;
        at += 2 + length;
        continue;
      }
      running = status;
      at += (status & 0xe0) === 0xc0 ? 1 : 2;
    }
  }
  return sum;
}

const asBuffer = (bytes: Uint8Array): ArrayBuffer => bytes.slice().buffer as ArrayBuffer;
const line = (name: string, value: string): void => console.log(`  ${name.padEnd(58)} ${value}`);
const times = (ratio: number): string => `${ratio.toFixed(1)} times`;

/** Bytes that the read song keeps an event, buffers included, the file's own bytes counted once. */
function memoryPerEvent(file: Uint8Array, events: number): number {
  const settle = (): NodeJS.MemoryUsage => {
    for (let i = 0; i < 4; i++) globalThis.gc?.();
    return process.memoryUsage();
  };
  const before = settle();
  const reading = readSmf(file);
  const after = settle();
  if (!reading.ok) throw new Error(reading.problem.code);
  const kept =
    after.heapUsed - before.heapUsed + (after.arrayBuffers - before.arrayBuffers) + file.length;
  return (
    kept /
    Math.min(
      events,
      reading.value.smf.tracks.reduce((sum, t) => sum + t.events.count, 0),
    )
  );
}

function writeWith(file: Uint8Array): () => unknown {
  const loaded = new MIDIFile(asBuffer(file));
  const events = loaded.tracks.map((_: unknown, i: number) => loaded.getTrackEvents(i));
  return () => {
    const out = new MIDIFile();
    out.header.setTicksPerBeat(480);
    out.header.setFormat(1);
    events.forEach((track: unknown[], i: number) => {
      if (i > 0) out.addTrack(i);
      out.setTrackEvents(i, track);
    });
    return out.getContent();
  };
}

const perEvent: number[] = [];
for (const events of [100_000, 1_000_000, 5_000_000]) {
  const smf = song(events);
  const file = writeSmf(smf);
  const rounds = events > 1_000_000 ? 3 : 9;
  const [ours = 0, bare = 0] = race(rounds, [() => readSmf(file), () => bareScan(file)]);
  perEvent.push(ours / events);
  console.log(`\n${events.toLocaleString('en')} events, ${(file.length / 1e6).toFixed(1)} MB`);
  line('reading, against a bare byte scan', `${times(ours / bare)} its time`);
  if (events <= 1_000_000) against(smf, file);
  line('memory after reading', `${memoryPerEvent(file, events).toFixed(1)} bytes an event`);
  const reading = readSmf(file);
  if (!reading.ok) throw new Error(reading.problem.code);
  const [whole] = songsFromSmf(reading.value.smf, 'bench.mid');
  let n = 0;
  const [step = 0, summary = 0, again = 0] = race(3, [
    () =>
      runStep(whole!, {
        operation: 'tracks.rename',
        settings: { name: `name ${n++}` },
        scope: { tracks: ['t3'] },
      }),
    () => summariseSong(songsFromSmf(forgotten(reading.value.smf), 'bench.mid')[0]!),
    () => readSmf(file),
  ]);
  line(
    'one step on one track (renaming)',
    `${step.toFixed(1)} ms, ${times(step / again)} the time of reading`,
  );
  const [looking = 0] = race(3, [
    () => lookOver(songsFromSmf(forgotten(reading.value.smf), 'bench.mid')[0]!),
  ]);
  line(
    'looking the song over',
    `${looking.toFixed(0)} ms, ${times(looking / again)} the time of reading`,
  );
  line('summary for the sheet', `${times(summary / again)} the time of reading`);
  if (events === 1_000_000) everyStep(whole!);
}
console.log('\nCost of reading an event, against that at 100,000 events');
line('at 1,000,000', times(perEvent[1]! / perEvent[0]!));
line('at 5,000,000', times(perEvent[2]! / perEvent[0]!));
console.log('\nWhat grows faster than its input');
line('of all works over songs of one thing', `${growth((text) => console.log(text))} do`);

/** Every operation with the settings of its examples, on one track; the slowest are named. */
function everyStep(whole: Song): void {
  const took: { id: string; ms: number }[] = [];
  const [, track] = whole.tracks;
  for (const { id, scope, examples, byHand } of operations) {
    if (scope === 'song' || byHand || id.startsWith('tracks.remove') || id === 'tracks.merge')
      continue;
    for (const { settings } of examples) {
      let ms = Infinity;
      for (let round = 0; round < 3; round++) {
        const began = performance.now();
        runStep(whole, { operation: id, settings, scope: { tracks: [track!.id] } });
        ms = Math.min(ms, performance.now() - began);
      }
      took.push({ id, ms });
    }
  }
  took.sort((a, b) => b.ms - a.ms);
  line(
    `${took.length} steps on one track of ${track!.events.count.toLocaleString('en')} events`,
    `${took.filter((t) => t.ms < 100).length} under 100 ms; slowest ${took
      .slice(0, 4)
      .map((t) => `${t.id} ${t.ms.toFixed(0)} ms`)
      .join(', ')}`,
  );
}

function against(smf: Smf, file: Uint8Array): void {
  const [ours = 1, midiFile = 0, midifileTs = 0] = race(5, [
    () => readSmf(file),
    () => parseMidi(file),
    () => readTs(asBuffer(file)),
  ]);
  line('reading, against midi-file', `${times(midiFile / ours)} faster`);
  line('reading, against midifile-ts', `${times(midifileTs / ours)} faster`);
  const [writing = 1, midifile = 0] = race(5, [() => writeSmf(smf), writeWith(file)]);
  if (process.env.SATCHEL_BENCH_MS) console.log({ ours, midiFile, midifileTs, writing, midifile });
  line('writing every track anew, against midifile', `${times(midifile / writing)} faster`);
}

/** The same song without what was remembered of it. */
function forgotten(smf: Smf): Smf {
  return { ...smf, tracks: smf.tracks.map((t) => ({ ...t, events: { ...t.events } })) };
}
