/** No sample goes beyond this, of 1. */
const ceiling = 0.97;
/** Seconds for which it looks ahead, by which it is late; and in which it lets go again. */
const ahead = 0.004;
const release = 0.15;

/**
 * Keeps two channels of sound from ever going beyond full scale, without distorting them: what is too loud is
 * turned down before it comes, and up again
 * slowly. What stays below passes as it is, a little later. The gain of each sample is a mean of lows, each over
 * all samples that are looked ahead to, so that it
 * is never more than the loudest of them needs.
 */
export class Limiter {
  private readonly length: number;
  private readonly left: Float32Array;
  private readonly right: Float32Array;
  /** The gain that each of the last samples needs, and below it the lows of it: rings as long as it looks ahead. */
  private readonly needed: Float32Array;
  /** In full precision: what is added is taken away again exactly, however long it plays. */
  private readonly lows: Float64Array;
  /** Places in `needed` whose gains rise from the lowest: the lowest of all is always the first. */
  private readonly rising: Int32Array;
  private first = 0;
  private count = 0;
  private sum: number;
  private low = 1;
  private readonly letGo: number;
  private at = 0;

  constructor(sampleRate: number) {
    this.length = Math.max(1, Math.round(ahead * sampleRate));
    this.left = new Float32Array(this.length);
    this.right = new Float32Array(this.length);
    this.needed = new Float32Array(this.length).fill(1);
    this.lows = new Float64Array(this.length).fill(1);
    this.rising = new Int32Array(this.length);
    this.sum = this.length;
    this.letGo = 1 - Math.exp(-1 / (release * sampleRate));
  }

  /** Samples by which everything comes later. */
  get late(): number {
    return this.length;
  }

  /** In the place of the samples that are given. */
  process(left: Float32Array, right: Float32Array): void {
    for (let n = 0; n < left.length; n++) {
      const [l, r] = [left[n]!, right[n]!];
      const place = this.at % this.length;
      const low = this.lowest(place, Math.max(Math.abs(l), Math.abs(r)));
      this.low = Math.min(low, this.low + (1 - this.low) * this.letGo);
      this.sum += this.low - this.lows[place]!;
      this.lows[place] = this.low;
      const gain = Math.min(1, this.sum / this.length);
      left[n] = this.left[place]! * gain;
      right[n] = this.right[place]! * gain;
      this.left[place] = l;
      this.right[place] = r;
      this.at++;
    }
  }

  /** Takes a peak in; the lowest gain that any sample needs which is looked ahead to. */
  private lowest(place: number, peak: number): number {
    const gain = peak > ceiling ? ceiling / peak : 1;
    // The oldest one leaves the window.
    if (this.count > 0 && this.rising[this.first] === place) {
      this.first = (this.first + 1) % this.length;
      this.count--;
    }
    const last = (): number => this.rising[(this.first + this.count - 1) % this.length]!;
    while (this.count > 0 && this.needed[last()]! >= gain) this.count--;
    this.needed[place] = gain;
    this.rising[(this.first + this.count) % this.length] = place;
    this.count++;
    return this.needed[this.rising[this.first]!]!;
  }
}
