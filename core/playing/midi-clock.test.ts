import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { tempoMap, type TempoMap } from '../timing/tempo-map.ts';
import { MidiClock } from './midi-clock.ts';

const ppq = 96;
const division = { kind: 'ppq', ticksPerQuarter: ppq } as const;
const steady = tempoMap([], division);

/** What a device is sent, with the second of the song it is for. */
function sent(map: TempoMap, act: (clock: MidiClock) => void, at = { now: 0 }) {
  const told: { at: number; bytes: string }[] = [];
  const clock = new MidiClock(map, ppq, (bytes, ahead) =>
    told.push({
      at: at.now + ahead,
      bytes: bytes.map((b) => b.toString(16).padStart(2, '0')).join(' '),
    }),
  );
  act(clock);
  return told;
}

describe('MIDI clock (MIDI 1.0: 24 a quarter, song position in sixteenths)', () => {
  it('starts at the beginning, 24 clocks a quarter: at 120 BPM every 1/48 s', () => {
    const told = sent(steady, (clock) => {
      clock.begin(0);
      clock.advance(0, 1);
    });
    expect(told[0]!.bytes).toBe('fa');
    const clocks = told.slice(1);
    expect(clocks).toHaveLength(48);
    clocks.forEach((c, n) => expect(c.at).toBeCloseTo(n / 48, 9));
  });

  it('from elsewhere names the next sixteenth, and goes on as that comes, before its clock', () => {
    // 3.3 s at 120 BPM: quarter 6.6, sixteenth 26.4; the next is 27, at 3.375 s.
    const at = { now: 3.3 };
    const told = sent(
      steady,
      (clock) => {
        clock.begin(3.3);
        clock.advance(3.3, 3.4);
      },
      at,
    );
    expect(told[0]).toEqual({ at: 3.3, bytes: 'f2 1b 00' });
    const goesOn = told.findIndex((t) => t.bytes === 'fb');
    expect(told[goesOn]!.at).toBeCloseTo(3.375, 9);
    expect(told[goesOn + 1]!.bytes).toBe('f8');
    expect(told[goesOn + 1]!.at).toBeCloseTo(3.375, 9);
  });

  it('names fourteen bits: the last is 16,383; behind it, it goes on without a name', () => {
    // A sixteenth is 0.125 s: 16,383 of them 2,047.875 s.
    expect(sent(steady, (c) => c.begin(2047.875))[0]!.bytes).toBe('f2 7f 7f');
    expect(sent(steady, (c) => c.begin(2048)).map((t) => t.bytes)).toEqual(['fb']);
  });

  it('is halted once, and before it begins elsewhere', () => {
    expect(
      sent(steady, (c) => {
        c.begin(0);
        c.begin(1);
        c.halt();
        c.halt();
      }).map((t) => t.bytes),
    ).toEqual(['fa', 'fc', 'f2 08 00', 'fc']);
  });

  it('goes on in the place of another one without a word, each clock once', () => {
    const told = sent(steady, (first) => {
      first.begin(0);
      first.advance(0, 0.5);
    });
    const before = new MidiClock(steady, ppq, () => undefined);
    before.begin(0);
    before.advance(0, 0.5);
    const after = sent(steady, (c) => {
      c.takeOver(before, 0.5);
      c.advance(0.5, 1);
    });
    expect(after.map((t) => t.bytes)).toEqual(Array(24).fill('f8'));
    expect(told.length - 1 + after.length).toBe(48);
  });

  it('keeps to any tempo map, however it is cut (law: by adding up the tempos clock by clock)', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ atTick: fc.nat(600), tempo: fc.integer({ min: 100_000, max: 2_000_000 }) }),
          { maxLength: 6 },
        ),
        fc.array(fc.double({ min: 0, max: 4, noNaN: true }), { maxLength: 10 }),
        (points, cuts) => {
          const tempos = [...new Map(points.map((p) => [p.atTick, p])).values()].sort(
            (a, b) => a.atTick - b.atTick,
          );
          const map = tempoMap(tempos, division);
          const at = { now: 0 };
          const told = sent(
            map,
            (clock) => {
              clock.begin(0);
              for (const cut of [...cuts, 4].sort((a, b) => a - b)) {
                clock.advance(at.now, cut);
                at.now = cut;
              }
            },
            at,
          ).filter((t) => t.bytes === 'f8');
          // By hand: a quarter of a tick is a step of a clock; each tick lasts its tempo / 96.
          let [seconds, tempo] = [0, 500_000];
          for (let step = 0, n = 0; n < told.length; step++) {
            const change = tempos.find((p) => p.atTick === step / 4);
            if (change) tempo = change.tempo;
            if (step % 16 === 0) expect(told[n++]!.at).toBeCloseTo(seconds, 6);
            seconds += tempo / 96 / 4 / 1e6;
          }
          expect(told.length).toBeGreaterThan(4);
        },
      ),
      { seed: 15, numRuns: scaleRuns(60) },
    );
  });
});
