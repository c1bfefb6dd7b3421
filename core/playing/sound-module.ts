/** What a channel of the sound module stands at. */
export interface ModuleChannel {
  readonly program: number;
  readonly bank: readonly [number, number];
  readonly volume: number;
  readonly pan: number;
  readonly expression: number;
  readonly damper: boolean;
  /** From -8,192 to 8,191. */
  readonly bend: number;
  /** Keys that are held. */
  readonly keys: readonly number[];
}

const atStart: ModuleChannel = {
  program: 0,
  bank: [0, 0],
  volume: 100,
  pan: 64,
  expression: 127,
  damper: false,
  bend: 0,
  keys: [],
};

/**
 * A device that stands in for one at a MIDI port: it takes messages as they go over the wire, and shows
 * what they make of it.
 */
export class SoundModule {
  readonly channels: ModuleChannel[] = Array.from({ length: 16 }, () => atStart);
  /** Messages that came, and those among them that are none. */
  received = 0;
  refused = 0;
  runs = false;
  /** Clocks since the beginning of the song. */
  private clocks = 0;
  /** When the last clocks of a quarter note came. */
  private readonly cameAt: number[] = [];

  /** One whole message, and when it is for, in milliseconds. */
  receive(bytes: readonly number[], at: number): void {
    this.received++;
    const [status = 0, data1 = 0, data2 = 0] = bytes;
    if (!isMessage(bytes)) return void this.refused++;
    if (status >= 0xf0) this.system(status, data1 | (data2 << 7), at, bytes);
    else this.channel(status >> 4, status & 15, data1, data2);
  }

  /** Sixteenths since the beginning of the song. */
  get sixteenth(): number {
    return Math.floor(this.clocks / 6);
  }

  /** Quarter notes a minute over the last of them; undefined until one has come. */
  get tempo(): number | undefined {
    const span = this.cameAt.at(-1)! - this.cameAt[0]!;
    return this.cameAt.length > 24 && span > 0 ? 60_000 / span : undefined;
  }

  private channel(kind: number, channel: number, data1: number, data2: number): void {
    const now = this.channels[channel]!;
    const others = now.keys.filter((k) => k !== data1);
    const bend = ((data2 << 7) | data1) - 8192;
    const to = (
      {
        8: () => ({ keys: others }),
        9: () => ({ keys: data2 > 0 ? [...others, data1] : others }),
        11: () => controlled(now, data1, data2),
        12: () => ({ program: data1 }),
        14: () => ({ bend }),
      } as Record<number, (() => Partial<ModuleChannel>) | undefined>
    )[kind]?.();
    if (to) this.channels[channel] = { ...now, ...to };
  }

  private system(status: number, position: number, at: number, bytes: readonly number[]): void {
    if (status === 0xf8) {
      this.cameAt.push(at);
      if (this.cameAt.length > 25) this.cameAt.shift();
      if (this.runs) this.clocks++;
    } else if (status === 0xfa) {
      this.clocks = 0;
      this.runs = true;
    } else if (status === 0xfb) this.runs = true;
    else if (status === 0xfc) this.runs = false;
    else if (status === 0xf2) this.clocks = position * 6;
    else if (status === 0xf0 && isReset(bytes)) this.channels.fill(atStart);
  }
}

function controlled(now: ModuleChannel, number: number, value: number): Partial<ModuleChannel> {
  switch (number) {
    case 0:
      return { bank: [value, now.bank[1]] };
    case 32:
      return { bank: [now.bank[0], value] };
    case 7:
      return { volume: value };
    case 10:
      return { pan: value };
    case 11:
      return { expression: value };
    case 64:
      return { damper: value >= 64 };
    // Reset of all controllers (RP-015): volume, pan and program stay.
    case 121:
      return { expression: 127, damper: false, bend: 0 };
    case 120:
    case 123:
      return { keys: [] };
    default:
      return {};
  }
}

/** General MIDI on (1 and 2). */
const isReset = (bytes: readonly number[]): boolean =>
  bytes[1] === 0x7e && bytes[3] === 9 && (bytes[4] === 1 || bytes[4] === 3);

/** Bytes that follow each status (MIDI 1.0), by its upper half; by the whole where that is 0xF. */
const dataBytes: Readonly<Record<number, number>> = {
  ...{ 0x8: 2, 0x9: 2, 0xa: 2, 0xb: 2, 0xc: 1, 0xd: 1, 0xe: 2 },
  ...{ 0xf1: 1, 0xf2: 2, 0xf3: 1, 0xf6: 0, 0xf8: 0, 0xfa: 0, 0xfb: 0, 0xfc: 0, 0xfe: 0, 0xff: 0 },
};

/** Whether bytes are one whole message. */
function isMessage(bytes: readonly number[]): boolean {
  const [status = 0, ...data] = bytes;
  if (status === 0xf0) return data.at(-1) === 0xf7 && data.slice(0, -1).every((b) => b < 128);
  const wanted = dataBytes[status < 0xf0 ? status >> 4 : status];
  return wanted !== undefined && data.length === wanted && data.every((b) => b < 128);
}
