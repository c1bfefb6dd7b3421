import type { MidiClock } from './midi-clock.ts';
import type { Player } from './player.ts';

/** A beat of the metronome: when, in seconds of the song, and whether a bar begins with it. */
export interface Beat {
  readonly seconds: number;
  readonly first: boolean;
}

/** Bars that are played again and again, in seconds. */
export interface Loop {
  readonly from: number;
  readonly to: number;
}

/** How a song is played; each may change while it plays. */
export interface Ways {
  /** How fast: 1 as written. */
  readonly rate: number;
  readonly loop: Loop | undefined;
  /** Where it ends, in seconds; undefined for the end of the song. */
  readonly stop: number | undefined;
  /** Whether beats are heard. */
  readonly metronome: boolean;
}

export const asWritten: Ways = {
  rate: 1,
  loop: undefined,
  stop: undefined,
  metronome: false,
};

/** A loop no longer than this would be a tone. */
const leastLoop = 0.02;

/**
 * Where a song is played and how fast, counted in samples: places are worked out from how many samples have
 * gone since the last jump, so that nothing adds up however long it plays. It tells the player what is due,
 * and cuts time where a loop ends and where beats are, to the sample.
 */
export class Transport {
  private readonly player: Player;
  private readonly sampleRate: number;
  private readonly beats: readonly Beat[];
  private readonly click: (first: boolean) => void;
  /** Of a device that keeps time with the song, if there is one. */
  private readonly clock: MidiClock | undefined;
  private ways: Ways = asWritten;
  /** Seconds of the song at the last jump, and samples since. */
  private base = 0;
  private samples = 0;
  /** It was begun behind the end of the loop, or behind where it stops: it plays on. */
  private beyond = false;
  /** The next beat. */
  private beat = 0;
  /** Beats that are counted in, in samples from now on, and when the song begins. */
  private lead:
    | {
        readonly beats: readonly { at: number; first: boolean }[];
        readonly length: number;
        gone: number;
      }
    | undefined;

  constructor(
    player: Player,
    sampleRate: number,
    beats: readonly Beat[],
    click: (first: boolean) => void,
    clock?: MidiClock,
  ) {
    this.player = player;
    this.sampleRate = sampleRate;
    this.beats = beats;
    this.click = click;
    this.clock = clock;
  }

  /** Where it is, in seconds of the song. */
  get seconds(): number {
    return this.base + (this.samples * this.ways.rate) / this.sampleRate;
  }

  /** Begins at a time, after so many beats of what is there, if wished. */
  begin(seconds: number, countIn = false): void {
    this.player.seek(seconds);
    this.place(seconds);
    const end = this.ways.stop ?? (this.loops ? this.loops.to : Infinity);
    this.beyond = seconds >= end - 1e-9;
    this.lead = countIn ? this.countIn(seconds) : undefined;
    if (this.lead) this.clock?.halt();
    else this.clock?.begin(seconds);
  }

  /** Goes on in the place of another one, in the same instrument: at a time, without a break. */
  takeOver(before: Transport, seconds: number): void {
    this.player.takeOver(before.player, seconds);
    this.place(seconds);
    this.lead = before.lead;
    this.beyond = before.beyond;
    if (!this.lead) this.clock?.takeOver(before.clock, seconds);
  }

  /** Whether it has come to where it stops. */
  get over(): boolean {
    const { stop } = this.ways;
    return (
      stop !== undefined && !this.beyond && this.lead === undefined && this.seconds >= stop - 1e-9
    );
  }

  /** Whether a bar begins with the next sample, as near as half a block of them. */
  get atBar(): boolean {
    const beat = this.beats[this.beat];
    const near = (64 / this.sampleRate) * this.ways.rate;
    return beat?.first === true && beat.seconds - this.seconds <= near;
  }

  /** Ends what sounds; what rings on does. */
  finish(): void {
    this.player.endNotesOfAll();
    this.clock?.halt();
  }

  private get loops(): Loop | undefined {
    const { loop } = this.ways;
    return loop && loop.to - loop.from >= leastLoop ? loop : undefined;
  }

  /** Plays otherwise from now on; the place stays. */
  set(ways: Ways): void {
    const here = this.seconds;
    const { loop, stop } = this.ways;
    if (loop?.from !== ways.loop?.from || loop?.to !== ways.loop?.to || stop !== ways.stop)
      this.beyond = ways.stop !== undefined && here >= ways.stop;
    this.ways = ways;
    this.base = here;
    this.samples = 0;
  }

  /** Says all that is due within the samples that come next, at most so many, and how many they are: at least one. */
  next(most: number): number {
    if (this.lead) return this.counting(this.lead, most);
    const { rate, metronome } = this.ways;
    const loop = this.beyond ? undefined : this.loops;
    const end = this.beyond ? undefined : (loop?.to ?? this.ways.stop);
    if (loop && this.seconds >= loop.to - 1e-9) {
      this.player.jump(loop.from);
      this.place(loop.from);
      this.clock?.begin(loop.from);
    }
    const here = this.seconds;
    let n = most;
    if (end !== undefined && here < end) n = Math.min(n, this.samplesTo(end));
    const beat = this.beats[this.beat];
    if (beat && beat.seconds <= here + 0.5 / this.sampleRate) {
      if (metronome) this.click(beat.first);
      this.beat++;
      return this.next(n);
    }
    if (metronome && beat) n = Math.min(n, this.samplesTo(beat.seconds));
    const until = here + (n * rate) / this.sampleRate;
    this.clock?.advance(here, until);
    this.player.advance(until);
    this.samples += n;
    return n;
  }

  /** Samples from here to a time that is ahead: it is reached with the last of them. */
  private samplesTo(seconds: number): number {
    const all = Math.ceil(((seconds - this.base) * this.sampleRate) / this.ways.rate - 1e-6);
    return Math.max(1, all - this.samples);
  }

  private place(seconds: number): void {
    this.base = seconds;
    this.samples = 0;
    this.beat = firstFrom(this.beats, seconds - 1e-9);
  }

  /** A bar of beats as they are where it begins. */
  private countIn(seconds: number): Transport['lead'] {
    const first = firstFrom(this.beats, seconds - 1e-9);
    const next = this.beats.findIndex((b, n) => n > first && b.first);
    const bar = this.beats.findLastIndex((b, n) => n <= first && b.first);
    const count = next === -1 || bar === -1 ? 4 : next - bar;
    const length = (this.beats[first + 1]?.seconds ?? 0.5) - (this.beats[first]?.seconds ?? 0);
    const samples = ((length > 0 ? length : 0.5) * this.sampleRate) / this.ways.rate;
    const beats = Array.from({ length: count }, (_, n) => ({
      at: Math.round(n * samples),
      first: n === 0,
    }));
    return { beats, length: Math.round(count * samples), gone: 0 };
  }

  private counting(lead: NonNullable<Transport['lead']>, most: number): number {
    const due = lead.beats.find((b) => b.at === lead.gone);
    if (due) this.click(due.first);
    const next = lead.beats.find((b) => b.at > lead.gone)?.at ?? lead.length;
    const n = Math.max(1, Math.min(most, next - lead.gone));
    lead.gone += n;
    if (lead.gone >= lead.length) {
      this.lead = undefined;
      // A block has at most so many samples: the clock starts with the next one.
      this.clock?.begin(this.seconds);
    }
    return n;
  }
}

/** Place of the first beat at a time or behind it. */
function firstFrom(beats: readonly Beat[], seconds: number): number {
  let [low, high] = [0, beats.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (beats[middle]!.seconds < seconds) low = middle + 1;
    else high = middle;
  }
  return low;
}
