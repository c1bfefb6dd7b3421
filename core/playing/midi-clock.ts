import { secondsToExactTicks, ticksToSeconds, type TempoMap } from '../timing/tempo-map.ts';

/** Timing clocks in a quarter note, and in a sixteenth, which song position counts (MIDI 1.0). */
const perQuarter = 24;
const perSixteenth = 6;
/** The last sixteenth that a song position can name: fourteen bits. */
export const lastSixteenth = 16_383;

const clock = [0xf8];
const start = [0xfa];
const goOn = [0xfb];
const halt = [0xfc];

/** What is said to a device, and in how many seconds of the song from where it is played. */
export type SayClock = (bytes: readonly number[], ahead: number) => void;

/**
 * MIDI clock over a tempo map: 24 a quarter note. From the beginning it is started; from elsewhere it is told
 * the next sixteenth and goes on as that
 * comes. A place behind the last sixteenth that can be named is gone on from without being named.
 */
export class MidiClock {
  private readonly map: TempoMap;
  private readonly ticksPerQuarter: number;
  private readonly say: SayClock;
  /** Number of the next clock from the beginning of the song, and the one with which the device goes on. */
  private next = 0;
  private goesOnWith: number | undefined;
  private runs = false;

  constructor(map: TempoMap, ticksPerQuarter: number, say: SayClock) {
    this.map = map;
    this.ticksPerQuarter = ticksPerQuarter;
    this.say = say;
  }

  begin(seconds: number): void {
    this.halt();
    this.runs = true;
    const quarters = secondsToExactTicks(this.map, seconds) / this.ticksPerQuarter;
    this.next = Math.ceil(quarters * perQuarter - 1e-6);
    this.goesOnWith = undefined;
    const sixteenth = Math.ceil((quarters * perQuarter) / perSixteenth - 1e-6);
    if (sixteenth === 0) this.say(start, 0);
    else if (sixteenth > lastSixteenth) this.say(goOn, 0);
    else {
      this.say([0xf2, sixteenth & 127, sixteenth >> 7], 0);
      this.goesOnWith = sixteenth * perSixteenth;
    }
  }

  /** Goes on where another one was, which says nothing any more: the device is not stopped. */
  takeOver(before: MidiClock | undefined, seconds: number): void {
    if (!before?.runs) return this.begin(seconds);
    before.runs = false;
    this.runs = true;
    const quarters = secondsToExactTicks(this.map, seconds) / this.ticksPerQuarter;
    this.next = Math.ceil(quarters * perQuarter - 1e-6);
    this.goesOnWith = before.goesOnWith;
  }

  /** Says the clocks that come from one time until before another. */
  advance(from: number, until: number): void {
    for (;;) {
      const at = this.timeOf(this.next);
      if (at >= until - 1e-9) return;
      const ahead = Math.max(0, at - from);
      if (this.next === this.goesOnWith) this.say(goOn, ahead);
      this.say(clock, ahead);
      this.next++;
    }
  }

  halt(): void {
    if (this.runs) this.say(halt, 0);
    this.runs = false;
  }

  private timeOf(number: number): number {
    return ticksToSeconds(this.map, (number * this.ticksPerQuarter) / perQuarter);
  }
}
