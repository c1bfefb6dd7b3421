/**
 * A second, plain reader of MIDI files that were just written, which shares nothing with the first: strict,
 * one event at a time, no columns and no mending (SMF 1.0). What it stumbles over is a defect of the
 * writer.
 */
export interface Chunk {
  readonly id: string;
  readonly from: number;
  readonly to: number;
}

/**
 * The chunks of a file, behind a RIFF wrapper's head where it has one (RP-029). @throws where they do not
 * fill it exactly
 */
export function chunksOf(bytes: Uint8Array): Chunk[] {
  const wrapped = wordAt(bytes, 0) === 'RIFF';
  let at = wrapped ? dataFrom(bytes) : 0;
  const end = wrapped ? at + little(bytes, at - 4) : bytes.length;
  const chunks: Chunk[] = [];
  while (at < end) {
    const id = wordAt(bytes, at);
    const length = big(bytes, at + 4);
    if (at + 8 + length > end) throw new Error(`chunk ${id} is longer than the file`);
    chunks.push({ id, from: at + 8, to: at + 8 + length });
    at += 8 + length;
  }
  return chunks;
}

const wordAt = (bytes: Uint8Array, at: number): string =>
  String.fromCharCode(...bytes.subarray(at, at + 4));
const big = (bytes: Uint8Array, at: number): number =>
  bytes[at]! * 0x1000000 + (bytes[at + 1]! << 16) + (bytes[at + 2]! << 8) + bytes[at + 3]!;
const little = (bytes: Uint8Array, at: number): number =>
  bytes[at]! + (bytes[at + 1]! << 8) + (bytes[at + 2]! << 16) + bytes[at + 3]! * 0x1000000;

function dataFrom(bytes: Uint8Array): number {
  let at = 12;
  while (wordAt(bytes, at) !== 'data') {
    const length = little(bytes, at + 4);
    at += 8 + length + (length % 2);
    if (at >= bytes.length) throw new Error('no data in the wrapper');
  }
  return at + 8;
}

/** Goes through one track: after each `next` that says true, `tick` and the event's bytes are known. */
export class TrackWalk {
  tick = 0;
  status = 0;
  /** First data byte, or the type of a meta event. */
  data1 = 0;
  data2 = 0;
  /** Where the payload of a meta or system exclusive event lies. */
  from = 0;
  to = 0;
  /** Whether any event left its status byte out, and whether any said one again that it could have left out. */
  usesRunningStatus = false;
  repeatsStatus = false;
  private at: number;
  private running = 0;
  private readonly bytes: Uint8Array;
  private readonly end: number;

  constructor(bytes: Uint8Array, { from, to }: Chunk) {
    this.bytes = bytes;
    this.at = from;
    this.end = to;
  }

  /** @throws where the track is not as the specification has it */
  next(): boolean {
    if (this.at === this.end) return false;
    this.tick += this.quantity();
    const lead = this.byte();
    if (lead < 0x80) {
      if (this.running === 0) throw new Error('a data byte without a status');
      this.at--;
    }
    if (lead < 0x80) this.usesRunningStatus = true;
    else if (lead === this.running) this.repeatsStatus = true;
    this.status = lead < 0x80 ? this.running : lead;
    this.from = this.to = this.data1 = this.data2 = 0;
    if (this.status < 0xf0) this.message();
    else this.payload();
    return true;
  }

  private message(): void {
    this.running = this.status;
    this.data1 = this.data();
    const kind = this.status >> 4;
    if (kind !== 0xc && kind !== 0xd) this.data2 = this.data();
  }

  private payload(): void {
    this.running = 0;
    if (this.status === 0xff) this.data1 = this.data();
    else if (this.status !== 0xf0 && this.status !== 0xf7)
      throw new Error(`status ${this.status} in a file`);
    const length = this.quantity();
    this.from = this.at;
    this.to = this.at += length;
    if (this.at > this.end) throw new Error('a payload is longer than its track');
  }

  private byte(): number {
    if (this.at >= this.end) throw new Error('a track ends within an event');
    return this.bytes[this.at++]!;
  }

  private data(): number {
    const value = this.byte();
    if (value > 0x7f) throw new Error('a data byte above 127');
    return value;
  }

  private quantity(): number {
    let value = 0;
    for (let n = 0; n < 4; n++) {
      const b = this.byte();
      value = value * 128 + (b & 0x7f);
      if (b < 0x80) return value;
    }
    throw new Error('a quantity of more than four bytes');
  }
}
