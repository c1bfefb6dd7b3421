import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../tests/support/scale.ts';
import { learnt, line } from '../../../tests/support/plain-line.ts';
import { concatBytes } from '../chunks.ts';
import { eventsFrom } from '../event-builder.ts';
import { channelEvent, type Events } from '../events.ts';
import { Effort, ProblemLog, TrackLog } from '../problem-log.ts';
import { readTrack } from '../read-track.ts';
import { writeTrack } from '../write.ts';
import { bestGuess, type DamagedTrack, type Guess } from './guess.ts';
import { Onsets } from './lost-time.ts';
import { oneByte } from './one-byte.ts';
import { SharedEnds } from './shared-ends.ts';
import { silentLoss } from './silent-loss.ts';
import { Suffixes } from './suffixes.ts';
import { TokenCosts, tokenAt } from './token-costs.ts';
import { usualRuns } from './usual-run.ts';

const body = writeTrack(line(80));
const asDamaged = (bytes: Uint8Array, costs: TokenCosts): DamagedTrack => ({
  bytes,
  body: 0,
  end: bytes.length,
  costs,
  suffixes: new Suffixes(bytes, 0, bytes.length, costs),
});
const cheapest = (guesses: readonly Guess[]): Guess | undefined =>
  [...guesses].sort((a, b) => a.cost - b.cost)[0];
const costOf = (bytes: Uint8Array, costs: TokenCosts): number =>
  new Suffixes(bytes, 0, bytes.length, costs).after(0, 0);
const readWhole = (bytes: Uint8Array): Events =>
  readTrack(bytes, 0, bytes.length, new TrackLog(new ProblemLog(), 0, new Effort(0))).events;
/** What an event costs at most whose byte is another than the true one. */
const oneEvent = 36;

/** The byte at which each event begins. */
function startsOf(bytes: Uint8Array): number[] {
  const starts: number[] = [];
  for (let [at, running] = [0, 0]; at < bytes.length;) {
    const token = tokenAt(bytes, at, bytes.length, running);
    if (!token) break;
    starts.push(at);
    ({ next: at, running } = token);
  }
  return starts;
}

describe('a single byte', () => {
  const costs = learnt(body);
  const anywhere = fc.integer({ min: 8, max: body.length - 12 });

  it('that is lost is found again: some byte at its place leaves no dearer events than the true ones', () => {
    fc.assert(
      fc.property(anywhere, (at) => {
        const damaged = concatBytes([body.subarray(0, at), body.subarray(at + 1)]);
        const found = oneByte(asDamaged(damaged, costs), 'lost', Infinity);
        expect(cheapest(found)!.cost).toBeLessThanOrEqual(costOf(body, costs) + oneEvent);
        expect(found.some((g) => Math.abs(g.at - at) <= 3)).toBe(true);
      }),
      { seed: 90, numRuns: scaleRuns(200) },
    );
  });

  it('that stands in place of another is found, where events cannot be read on behind it', () => {
    fc.assert(
      fc.property(anywhere, fc.integer({ min: 0x80, max: 0xff }), (at, value) => {
        const damaged = body.slice();
        damaged[at] = value;
        const found = cheapest(oneByte(asDamaged(damaged, costs), 'replaced', Infinity));
        const asItIs = new Suffixes(damaged, 0, damaged.length, costs).after(0, 0);
        if (asItIs === Infinity)
          expect(found!.cost).toBeLessThanOrEqual(costOf(body, costs) + oneEvent);
      }),
      { seed: 91, numRuns: scaleRuns(200) },
    );
  });

  it('of a time is set as the music wants it: what follows stands where it stood', () => {
    // A line of eighths again and again; the time before one of its notes is lost.
    const onsets = (): Onsets => new Onsets(96, [line(200)]);
    const place = startsOf(body)[100]!;
    const damaged = concatBytes([body.subarray(0, place), body.subarray(place + 1)]);
    const best = bestGuess(
      asDamaged(damaged, costs),
      oneByte(asDamaged(damaged, costs), 'lost', Infinity),
      onsets,
      new SharedEnds([]),
    )!;
    const whole = readWhole(body);
    expect([...best.events.atTick.subarray(-20)]).toEqual([...whole.atTick.subarray(-20)]);
  });
});

describe('bytes that are missing without a trace', () => {
  it('are told by the same music elsewhere: where they were, and how long they lasted', () => {
    // Eight bars of the same sixteen notes, each of its own velocity; of the fifth bar two notes are missing.
    const bar = (n: number) =>
      Array.from({ length: 16 }, (_, k) => [
        channelEvent(n * 384 + k * 24, 0x90, 50 + ((k * 7) % 12), 60 + k),
        channelEvent(n * 384 + k * 24 + 12, 0x80, 50 + ((k * 7) % 12), 64),
      ]).flat();
    const events = eventsFrom(Array.from({ length: 8 }, (_, n) => bar(n)).flat());
    const whole = writeTrack(events);
    const starts = startsOf(whole);
    const [from, to] = [starts[4 * 32 + 10]!, starts[4 * 32 + 14]!];
    const damaged = concatBytes([whole.subarray(0, from), whole.subarray(to)]);
    const found = silentLoss(
      damaged,
      readWhole(damaged),
      startsOf(damaged),
      4 * 32 + 12,
      to - from,
    );
    expect(found).toMatchObject({ row: 4 * 32 + 10, ticks: 48 });
    expect(silentLoss(whole, events, starts, 4 * 32 + 12, 5)).toBeUndefined();
  });
});

describe('a track on one running status', () => {
  it('is learnt from where its keys are struck and released in turn, not from where it reads out of step', () => {
    // Sixteenths of drums, ended by velocity 0: three bytes an event, so that a byte too few reads on for
    // ever, times as keys and keys as velocities.
    const drums = eventsFrom(
      Array.from({ length: 600 }, (_, n) => [
        channelEvent(n * 24, 0x99, 36 + ((n * 5) % 7), 80 + (n % 9)),
        channelEvent(n * 24 + 12, 0x99, 36 + ((n * 5) % 7), 0),
      ]).flat(),
    );
    const whole = writeTrack(drums);
    const starts = startsOf(whole);
    const lost = starts[60]! + 1;
    const damaged = concatBytes([whole.subarray(0, lost), whole.subarray(lost + 1)]);
    const inStep = new Set([
      ...starts.filter((s) => s < lost),
      ...starts.filter((s) => s > lost).map((s) => s - 1),
    ]);
    const runs = usualRuns(damaged, 0, damaged.length);
    expect(Math.max(...runs.map((r) => r.to - r.from))).toBeGreaterThan(whole.length / 2);
    for (const { from } of runs.filter((r) => r.to - r.from > 200))
      expect(inStep.has(from)).toBe(true);
  });
});
