/** What of a song is in view: ticks to the right, keys upwards. Views that share a plane scroll and zoom together. */
export class Plane {
  /** Tick at the left edge. */
  tick = 0;
  ticksPerPixel = 4;
  /** Key at the upper edge; may lie between two keys. */
  topKey = 96;
  keyHeight = 10;
  width = 1;
  height = 1;
  readonly endTick: number;
  private readonly listeners = new Set<() => void>();

  constructor(endTick: number) {
    this.endTick = Math.max(1, endTick);
  }

  x = (tick: number): number => (tick - this.tick) / this.ticksPerPixel;
  tickAt = (x: number): number => this.tick + x * this.ticksPerPixel;
  /** Middle of a key's row. */
  y = (key: number): number => (this.topKey - key + 0.5) * this.keyHeight;
  keyAt = (y: number): number =>
    Math.min(127, Math.max(0, Math.ceil(this.topKey - y / this.keyHeight)));

  get lastTick(): number {
    return this.tickAt(this.width);
  }

  /** Calls back after every change, until the function it gives is called. */
  onChange(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  resize(width: number, height: number): void {
    this.width = Math.max(1, width);
    this.height = Math.max(1, height);
    this.settle();
  }

  scroll(byPixelsX: number, byPixelsY: number): void {
    this.tick += byPixelsX * this.ticksPerPixel;
    this.topKey -= byPixelsY / this.keyHeight;
    this.settle();
  }

  /** Zooms in time about a place that stays where it is; above 1 comes nearer. */
  zoom(by: number, aboutX: number): void {
    const tick = this.tickAt(aboutX);
    this.ticksPerPixel = Math.min(
      this.endTick / (this.width * 0.8),
      Math.max(1 / 16, this.ticksPerPixel / by),
    );
    this.tick = tick - aboutX * this.ticksPerPixel;
    this.settle();
  }

  zoomKeys(by: number, aboutY: number): void {
    const key = this.topKey - aboutY / this.keyHeight;
    this.keyHeight = Math.min(40, Math.max(3, this.keyHeight * by));
    this.topKey = key + aboutY / this.keyHeight;
    this.settle();
  }

  /** Shows a span of ticks, and keys around a range. */
  show(from: number, to: number, lowest?: number, highest?: number): void {
    this.ticksPerPixel = Math.max(1 / 16, (to - from) / this.width);
    this.tick = from;
    if (lowest !== undefined && highest !== undefined) {
      this.keyHeight = Math.min(14, Math.max(5, this.height / (highest - lowest + 9)));
      this.topKey = (lowest + highest + this.height / this.keyHeight) / 2;
    }
    this.settle();
  }

  /** Keeps the view over the song, with a little room behind its end, and on the keyboard. */
  private settle(): void {
    const beyond = this.width * this.ticksPerPixel * 0.9;
    this.tick = Math.max(
      0,
      Math.min(this.tick, this.endTick - this.width * this.ticksPerPixel + beyond),
    );
    const rows = this.height / this.keyHeight;
    this.topKey =
      rows >= 128 ? 63.5 + rows / 2 : Math.min(127.5, Math.max(rows - 0.5, this.topKey));
    for (const listener of this.listeners) listener();
  }
}
