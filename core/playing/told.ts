import { usualValue } from '../instruments/usual-values.ts';

/** A message but a note; of a system exclusive one its bytes. */
export interface Said {
  readonly port: number;
  readonly status: number;
  readonly data1: number;
  readonly data2: number;
  readonly bytes?: Uint8Array;
}

/** Parts of controller messages that mean something in their order only: data entry, RPN and NRPN. */
export const isInOrder = ({ status, data1 }: Pick<Said, 'status' | 'data1'>): boolean =>
  status >> 4 === 0xb && inOrder.has(data1);
const inOrder: ReadonlySet<number> = new Set([6, 38, 96, 97, 98, 99, 100, 101]);
const resetAll = 121;

/** What a message sets, as one number: of controllers and of pressure on keys each by itself. */
export const keyOf = ({ port, status, data1 }: Omit<Said, 'data2' | 'bytes'>): number =>
  ((port << 8) | status) * 128 + (status >> 4 === 0xb || status >> 4 === 0xa ? data1 : 0);

const channelOf = ({ port, status }: Said): number => (port << 4) | (status & 15);

/**
 * What an instrument was told since it was as it is at the start: enough to know what has to be said for it
 * to be as at another place.
 */
export class Told {
  /** The last of each kind that stands by itself. */
  private readonly values = new Map<number, Said>();
  /** By channel, in their order, what means something there only. */
  private readonly sequences = new Map<number, Said[]>();
  private readonly exclusives: Said[] = [];
  /** Channels on which all controllers were reset: what was said before may not be so since. */
  private readonly wereReset = new Set<number>();

  add(said: Said): void {
    if (said.bytes) return void this.exclusives.push(said);
    if (isInOrder(said)) {
      const before = this.sequences.get(channelOf(said));
      if (before) before.push(said);
      else this.sequences.set(channelOf(said), [said]);
    } else {
      if (said.status >> 4 === 0xb && said.data1 === resetAll) this.wereReset.add(channelOf(said));
      this.values.set(keyOf(said), said);
    }
  }

  /** Channels whose bank is another one then: their program has to be said again, though its number is the same. */
  private otherBanks(then: Told): Set<number> {
    const banks = [...this.values.values(), ...then.values.values()].filter(
      ({ status, data1 }) => status >> 4 === 0xb && (data1 === 0 || data1 === 32),
    );
    return new Set(
      banks
        .filter((said) => {
          const key = keyOf(said);
          return this.values.get(key)?.data2 !== then.values.get(key)?.data2;
        })
        .map(channelOf),
    );
  }

  /**
   * How to get from here to where only `there` was said, in that order: what goes back to where an instrument
   * starts from (General MIDI), to be
   * said first, and which of `there` have to be said again.
   */
  differences(there: readonly Said[]): {
    readonly reset: Omit<Said, 'bytes'>[];
    again(said: Said): boolean;
  } {
    const then = new Told();
    for (const said of there) then.add(said);
    // Controllers before programs: a bank counts with the program that comes behind it.
    const reset = [...this.values]
      .filter(([key]) => !then.values.has(key))
      .flatMap(([, said]) => usualOf(said) ?? [])
      .sort((a, b) => (a.status >> 4) - (b.status >> 4));
    const banked = this.otherBanks(then);
    const turned = new Set<number>();
    for (const channel of new Set([...this.sequences.keys(), ...then.sequences.keys()])) {
      const [now, next] = [this.sequences.get(channel) ?? [], then.sequences.get(channel) ?? []];
      if (sameMessages(now, next)) continue;
      turned.add(channel);
      reset.push(...unturned(channel, now));
    }
    const anew = !sameMessages(this.exclusives, then.exclusives);
    const again = (said: Said): boolean => {
      if (anew || said.bytes) return anew;
      const channel = channelOf(said);
      if (isInOrder(said)) return turned.has(channel);
      if (this.wereReset.has(channel) || then.wereReset.has(channel)) return true;
      if (said.status >> 4 === 0xc && banked.has(channel)) return true;
      const now = this.values.get(keyOf(said));
      return now?.data1 !== said.data1 || now.data2 !== said.data2;
    };
    return { reset, again };
  }
}

/** What takes channel mode messages back (MIDI 1.0): local control on, omni off, poly on. */
const usualModes: Readonly<Record<number, readonly [number: number, value: number]>> = {
  122: [122, 127],
  125: [124, 0],
  126: [127, 0],
};

function usualOf({ port, status, data1 }: Said): Omit<Said, 'bytes'> | undefined {
  const kind = status >> 4;
  const mode = kind === 0xb ? usualModes[data1] : undefined;
  if (mode) return { port, status, data1: mode[0], data2: mode[1] };
  if (kind === 0xb)
    return data1 < 120 ? { port, status, data1, data2: usualValue(data1) ?? 0 } : undefined;
  if (kind === 0xa) return { port, status, data1, data2: 0 };
  return { port, status, data1: 0, data2: kind === 0xe ? 64 : 0 };
}

/**
 * Parameters that were set on a channel go back: registered ones to what the MIDI 1.0 specification and
 * General MIDI give them (bend range 2 semitones, tunings in the middle), others to the middle of their
 * range, which is "unchanged" to the devices that know them (common practice).
 */
function unturned(channel: number, sequence: readonly Said[]): Omit<Said, 'bytes'>[] {
  const [port, status] = [channel >> 4, 0xb0 | (channel & 15)];
  const found = new Map<string, Omit<Said, 'bytes'>[]>();
  let [high, low, registered] = [127, 127, true];
  for (const { data1, data2 } of sequence) {
    if (data1 >= 98 && data1 <= 101) {
      registered = data1 >= 100;
      if (data1 === 99 || data1 === 101) high = data2;
      else low = data2;
    } else if (high !== 127 || low !== 127) {
      const say = (number: number, value: number): Omit<Said, 'bytes'> => ({
        port,
        status,
        data1: number,
        data2: value,
      });
      found.set(`${registered} ${high} ${low}`, [
        say(registered ? 101 : 99, high),
        say(registered ? 100 : 98, low),
        say(6, registered ? (registeredAt[low] ?? 0) : 64),
        say(38, 0),
      ]);
    }
  }
  return [...found.values()].flat();
}

/** Data entry of registered parameters 0 to 2: bend range, fine and coarse tuning. */
const registeredAt: Readonly<Record<number, number>> = { 0: 2, 1: 64, 2: 64 };

function sameMessages(a: readonly Said[], b: readonly Said[]): boolean {
  return (
    a.length === b.length &&
    a.every((one, n) => {
      const other = b[n]!;
      return (
        one.port === other.port &&
        one.status === other.status &&
        one.data1 === other.data1 &&
        one.data2 === other.data2 &&
        sameBytes(one.bytes, other.bytes)
      );
    })
  );
}

const sameBytes = (a: Uint8Array | undefined, b: Uint8Array | undefined): boolean =>
  a === b || (a?.length === b?.length && a!.every((byte, n) => byte === b![n]));
