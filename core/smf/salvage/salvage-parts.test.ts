import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../tests/support/scale.ts';
import { learnt, line } from '../../../tests/support/plain-line.ts';
import { smfFile } from '../../../tests/support/generate.ts';
import { concatBytes } from '../chunks.ts';
import { eventsFrom } from '../event-builder.ts';
import { mergeEvents } from '../merge.ts';
import { channelEvent, eventValues } from '../events.ts';
import { readSmf } from '../read.ts';
import { writeSmf, writeTrack } from '../write.ts';
import { Onsets } from './lost-time.ts';
import { damageCost, realign } from './realign.ts';
import { TokenCosts, tokenAt } from './token-costs.ts';
import type { DamagedTrack, Guess } from './guess.ts';
import { putIn } from './put-in.ts';
import { SharedEnds } from './shared-ends.ts';
import { Suffixes } from './suffixes.ts';
import { withSweeps } from './sweeps.ts';
import { firstUnpaired } from './unpaired.ts';
import { whereEndsWereLost, withLostEnds } from './lost-ends.ts';
import { usualRuns } from './usual-run.ts';
import { wipedRows, withoutWiped } from './wiped.ts';

const body = writeTrack(line(80));

describe('what is usual in a file', () => {
  it('costs what its share says: half the times one bit, and what never came a bounded many', () => {
    const costs = learnt(body);
    // Of 161 events 80 come 40 ticks and 79 come 8 ticks after the one before.
    expect(costs.deltaCost(40, 0)).toBeCloseTo(Math.log2(163 / 80), 5);
    expect(costs.deltaCost(5000, 0)).toBeGreaterThan(20);
    // Key 60 is one of four, velocity 70 one of three.
    expect(costs.dataCost(0x90, 60, 70)).toBeCloseTo(2 + Math.log2(3), 0);
    expect(costs.dataCost(0x90, 100, 1)).toBeLessThanOrEqual(18);
    expect(costs.statuses().sort()).toEqual([0x80, 0x90]);
  });

  it('tokens are the events that the reader reads', () => {
    let [at, running, n] = [0, 0, 0];
    for (
      let token = tokenAt(body, at, body.length, running);
      token;
      token = tokenAt(body, at, body.length, running)
    ) {
      ({ next: at, running } = token);
      n++;
    }
    expect([at, n]).toEqual([body.length, 161]);
  });

  it('is learnt up to where reading falls out of step', () => {
    const at = 400;
    const damaged = concatBytes([body.subarray(0, at), body.subarray(at + 1)]);
    const { from, to } = usualRuns(damaged, 0, damaged.length)[0]!;
    expect(from).toBe(0);
    expect(to).toBeLessThan(at + 24);
    expect(to).toBeGreaterThan(at - 120);
  });
});

describe('the likeliest reading of damaged bytes', () => {
  it('finds every event around noise, wherever it stands and whatever it is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 80, max: 150 }),
        fc.uint8Array({ minLength: 3, maxLength: 30 }),
        (event, noise) => {
          let [at, running] = [0, 0];
          for (let n = 0; n < event; n++)
            ({ next: at, running } = tokenAt(body, at, body.length, running)!);
          const bytes = concatBytes([body.subarray(0, at), noise, body.subarray(at)]);
          const { events } = realign(bytes, 0, bytes.length, learnt(body), damageCost.suspected);
          const places = new Set(events.map((e) => e.at));
          // Behind the noise an event at most is lost to it: noise may end as its time begins.
          let [place, status, missed] = [0, 0, 0];
          for (
            let token = tokenAt(body, place, body.length, status);
            token;
            token = tokenAt(body, place, body.length, status)
          ) {
            if (!places.has(place < at ? place : place + noise.length)) missed++;
            ({ next: place, running: status } = token);
          }
          expect(missed).toBeLessThanOrEqual(2);
        },
      ),
      { seed: 93, numRuns: scaleRuns(150) },
    );
  });
});

describe('the time that a damage lasted', () => {
  it('is what puts the notes behind it on their beats again', () => {
    const events = line(80);
    for (const lost of [48, 96, 144, 240]) {
      const onsets = new Onsets(96, []);
      const half = 80;
      for (let i = 0; i < half; i++) if (events.status[i]! >> 4 === 9) onsets.add(events, i, 0);
      const late = { ...events, atTick: events.atTick.map((t, i) => (i < half ? t : t - lost)) };
      expect(onsets.bestShift(late, half, events.count, 0, lost * 1.2, new Map([[0, 8]]))).toBe(
        lost,
      );
    }
  });

  it('is the one with which a track ends where others end together', () => {
    const tracks = [line(80), line(80), line(12)];
    const ends = new SharedEnds(tracks);
    const end = tracks[0]!.atTick.at(-1)!;
    expect(ends.fit(end)).toBeGreaterThan(8);
    expect(ends.fit(end - 1)).toBe(0);
    // Of one track alone nothing is shared.
    expect(ends.fit(tracks[2]!.atTick.at(-1)!)).toBe(0);
    expect(ends.after(end - 30)).toEqual([[30, ends.fit(end)]]);
    expect(ends.after(end + 1)).toEqual([]);
  });

  it('is found where bytes are missing without a trace, and nowhere in a line that is whole', () => {
    const events = line(200);
    const onsets = new Onsets(96, [line(100)]);
    expect(onsets.breakIn(events)).toBeUndefined();
    const half = 200;
    const early = { ...events, atTick: events.atTick.map((t, i) => (i < half ? t : t - 20)) };
    expect(onsets.breakIn(early)).toBe(half);
  });
});

describe('zeros written over a track', () => {
  it('are three note messages of nothing but zeros on one tick, four where key 0 sounds; fewer are music', () => {
    const zeros = (status: number, times: number, key = 60) =>
      eventsFrom([
        ...Array.from({ length: times }, () => channelEvent(0, status, 0, 0)),
        channelEvent(9, 0x90, key, 64),
        channelEvent(10, 0x80, key, 64),
      ]);
    expect(wipedRows(zeros(0x90, 3))).toHaveLength(3);
    expect(wipedRows(zeros(0x90, 3, 0))).toHaveLength(0);
    expect(wipedRows(zeros(0x90, 4, 0))).toHaveLength(4);
    expect(withoutWiped(zeros(0x80, 5)).count).toBe(3);
    for (const events of [zeros(0x90, 2), zeros(0xb0, 8), zeros(0xe0, 8)])
      expect(withoutWiped(events)).toBe(events);
  });

  it('law: no sound file is touched, whatever it holds', () => {
    fc.assert(
      fc.property(smfFile(), (smf) => {
        const reading = readSmf(writeSmf(smf));
        if (!reading.ok) throw new Error(reading.problem.code);
        expect(
          reading.value.problems
            .map((p) => p.code)
            .filter((code) => code.startsWith('track-damaged')),
        ).toEqual([]);
        expect(reading.value.smf.tracks.map((t) => eventValues(t.events))).toEqual(
          smf.tracks.map((t) => eventValues(t.events)),
        );
      }),
      { seed: 94, numRuns: scaleRuns(300) },
    );
  });
});

describe('a sweep that comes but once', () => {
  const bend = Array.from({ length: 20 }, (_, n) => channelEvent(480 + n * 2, 0xe0, 5 * n, 65 + n));
  const sweeping = writeTrack(mergeEvents([line(80), eventsFrom(bend)]));

  it('is music, though its bytes are as unusual as noise', () => {
    const costs = learnt(body);
    const found = realign(sweeping, 0, sweeping.length, costs, damageCost.suspected);
    expect(found.gaps.length).toBeGreaterThan(0);
    const again = withSweeps(sweeping, sweeping.length, found);
    expect([again.gaps, again.events]).toEqual([[], placesOf(sweeping)]);
  });

  it('is sought in tracks of any length', () => {
    const events = Array.from({ length: 300_000 }, () => ({ at: 0, running: 0 }));
    const found = { events, gaps: [{ from: 4, to: 9, before: 250_000 }], guessed: 0, cost: 0 };
    expect(withSweeps(body, body.length, found)).toBe(found);
  });

  it('what is no sweep stays a gap', () => {
    const noise = Uint8Array.of(3, 200, 17, 255, 9, 130, 77);
    const bytes = concatBytes([body.subarray(0, 400), noise, body.subarray(400)]);
    const found = realign(bytes, 0, bytes.length, learnt(body), damageCost.suspected);
    expect(found.gaps.length).toBeGreaterThan(0);
    expect(withSweeps(bytes, bytes.length, found)).toBe(found);
  });
});

/** Where the events of sound bytes begin, and the status that each runs on. */
function placesOf(bytes: Uint8Array): { at: number; running: number }[] {
  const places = [];
  for (let at = 0, running = 0; at < bytes.length;) {
    places.push({ at, running });
    ({ next: at, running } = tokenAt(bytes, at, bytes.length, running)!);
  }
  return places;
}

describe('a status that was put in', () => {
  it('makes no other lane usual: notes read as controllers are told by being given and taken back in turn', () => {
    // On one running status: every event behind a stray controller's status reads well, and is none.
    const running = runningLine(200);
    const at = placesOf(running)[100]!.at + 1;
    const damaged = concatBytes([
      running.subarray(0, at),
      Uint8Array.of(0xb2),
      running.subarray(at),
    ]);
    for (const { from, to } of usualRuns(damaged, 0, damaged.length))
      expect(to <= at + 60 || from > at).toBe(true);
    const lane = writeTrack(
      eventsFrom(
        Array.from({ length: 300 }, (_, n) => channelEvent(n * 5, 0xb0, 7, 40 + (n % 60))),
      ),
    );
    expect(usualRuns(lane, 0, lane.length)[0]).toMatchObject({ from: 0, to: lane.length });
  });

  it('leaves no other channel to events that run on', () => {
    // The same line is known on channel 7, and another one on channel 1: this one reads on 1, as its bytes say.
    const on7 = eventValues(line(300)).map((e) =>
      e.status >= 0xf0 ? e : { ...e, status: 0x96, data2: e.status === 0x80 ? 0 : e.data2 },
    );
    const others = eventValues(line(300)).map((e) =>
      e.status >= 0xf0 ? e : { ...e, status: 0x90, data1: e.data1 - 30 },
    );
    const costs = learnt(writeTrack(eventsFrom(on7)));
    const there = writeTrack(eventsFrom(others));
    costs.count(there, 0, there.length);
    const bytes = runningLine(300);
    const found = realign(bytes, 0, bytes.length, costs, damageCost.suspected);
    expect(found.guessed).toBe(0);
  });
});

/** The line on one running status, keys released by velocity 0. */
const runningLine = (notes: number): Uint8Array =>
  writeTrack(
    eventsFrom(
      eventValues(line(notes)).map((e) =>
        e.status === 0x80 ? { ...e, status: 0x90, data2: 0 } : e,
      ),
    ),
    { runningStatus: true },
  );

describe('bytes that were put in', () => {
  it('are found by their number, wherever they stand: what is left are the events as they were, times and all', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 8, max: body.length - 12 }),
        fc.uint8Array({ minLength: 1, maxLength: 24 }),
        (at, noise) => {
          const damaged = concatBytes([body.subarray(0, at), noise, body.subarray(at)]);
          const costs = learnt(body);
          const found = cheapest(putIn(asDamaged(damaged, costs), noise.length, Infinity))!;
          const rest = concatBytes([
            damaged.subarray(0, found.at),
            damaged.subarray(found.at + noise.length),
          ]);
          // Noise may by chance read as events that are likelier than those beside it: then it is no dearer
          // than the truth.
          if (found.at !== at) expect(found.cost).toBeLessThanOrEqual(costOf(body, costs) + 1e-3);
          else expect(rest).toEqual(body);
        },
      ),
      { seed: 9, numRuns: scaleRuns(200) },
    );
  });

  it('sound bytes are no likelier without some of them', () => {
    const costs = learnt(body);
    for (let many = 1; many < 12; many++)
      expect(
        cheapest(putIn(asDamaged(body, costs), many, Infinity))?.cost ?? Infinity,
      ).toBeGreaterThan(costOf(body, costs) - many * 6);
  });
});

const asDamaged = (bytes: Uint8Array, costs: TokenCosts): DamagedTrack => ({
  bytes,
  body: 0,
  end: bytes.length,
  costs,
  suffixes: new Suffixes(bytes, 0, bytes.length, costs),
});
const cheapest = (guesses: readonly Guess[]): Guess | undefined =>
  [...guesses].sort((a, b) => a.cost - b.cost)[0];

/** What sound bytes cost as events. */
const costOf = (bytes: Uint8Array, costs: TokenCosts): number =>
  new Suffixes(bytes, 0, bytes.length, costs).after(0, 0);

describe('notes whose other end was lost', () => {
  const [on, off] = [
    (tick: number, key: number) => channelEvent(tick, 0x90, key, 80),
    (tick: number, key: number) => channelEvent(tick, 0x80, key, 64),
  ];
  // Key 60 loses its end before the gap at row 3; key 62 is held over it.
  const events = eventsFrom([
    on(0, 60),
    on(10, 62),
    off(20, 64),
    on(100, 60),
    off(140, 60),
    off(150, 62),
    on(200, 60),
    off(240, 60),
  ]);

  it('a key that is never silent again behind the gap ends there; one that is held over it is held', () => {
    const added = eventValues(withLostEnds(events, [3])).filter(
      (e) => e.atTick === 100 && e.status === 0x80,
    );
    expect(added.map((e) => e.data1)).toEqual([60]);
    expect(withLostEnds(events, [])).toBe(events);
    expect(withLostEnds(line(20), [10])).toEqual(line(20));
  });

  it('of a note on the tick of the gap the end stands behind it, not before', () => {
    const struck = eventsFrom([on(0, 60), on(0, 62), off(40, 62), on(96, 60), off(136, 60)]);
    expect(
      eventValues(withLostEnds(struck, [1])).map((e) => [e.atTick, e.status, e.data1]),
    ).toEqual([
      [0, 0x90, 60],
      [0, 0x80, 60],
      [0, 0x90, 62],
      [40, 0x80, 62],
      [96, 0x90, 60],
      [136, 0x80, 60],
      [136, 0xff, 0x2f],
    ]);
  });

  it('a gap behind all that was read ends nothing', () => {
    expect(withLostEnds(events, [events.count])).toBe(events);
  });

  it('where several keys hang their ends were lost together, before the first is struck again', () => {
    // Three keys of a chord that are never silent again, and one that has hung since long before.
    const chord = eventsFrom([
      on(0, 40),
      on(5, 40),
      off(6, 40),
      on(10, 60),
      on(10, 64),
      on(10, 67),
      on(96, 60),
      on(96, 64),
      on(96, 67),
      off(136, 60),
      off(136, 64),
      off(136, 67),
    ]);
    expect(whereEndsWereLost(chord)).toBe(6);
    expect(whereEndsWereLost(line(20))).toBeUndefined();
    const played = Array.from({ length: 65 }, (_, n) => [on(n, 20 + n), on(n + 200, 20 + n)]);
    expect(whereEndsWereLost(eventsFrom(played.flat()))).toBeUndefined();
    expect(withLostEnds(eventsFrom(played.flat()), [70])).toEqual(eventsFrom(played.flat()));
  });

  it('notes that were never ended before the gap are not ended there', () => {
    const hanging = eventsFrom([
      on(0, 60),
      on(50, 60),
      off(60, 60),
      on(80, 60),
      off(90, 60),
      on(100, 64),
      off(110, 64),
    ]);
    expect(withLostEnds(hanging, [5])).toBe(hanging);
  });

  it('the first message that pairs with none tells where they were lost, unless the track is played so', () => {
    expect(firstUnpaired(line(20))).toBeUndefined();
    expect(firstUnpaired(events)).toBe(2);
    expect(
      firstUnpaired(
        eventsFrom(Array.from({ length: 9 }, (_, n) => [on(n, 50 + n), on(n + 20, 50 + n)]).flat()),
      ),
    ).toBeUndefined();
  });
});
