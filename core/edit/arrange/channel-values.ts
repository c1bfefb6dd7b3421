import { usualValue } from '../../instruments/usual-values.ts';

/**
 * Where what a channel is set to is kept, one number each: controllers by their number; then what has
 * messages of its own. What was never said is −1.
 */
const local = 120;
const omni = 121;
const mono = 122;
const bend = 123;
const pressure = 124;
/** The program, and the banks it was chosen from; the banks chosen since are controllers 0 and 32. */
const program = 125;
export const programSlot = program;
const programBank = 126;
const programFineBank = 127;
/** Pressure of each key. */
const keyPressure = 128;
/** Whether data are for a registered parameter (1) or not (0); the parameter itself is controllers 98–101. */
const registered = 256;
export const slotCount = 257;

/** Controllers that say a parameter or its value: none of them is said again by itself. */
const ofParameters: ReadonlySet<number> = new Set([6, 38, 96, 97, 98, 99, 100, 101]);
const isBank = (number: number): boolean => number === 0 || number === 32;

/** Controllers that 121 puts back (RP-015); bend, pressure and the chosen parameter go with them. */
const putBack = [1, 11, 64, 65, 66, 67, bend, pressure, registered, 98, 99, 100, 101];

/** Controllers that choose a parameter: its coarse and its fine half. */
const [rpn, nrpn] = [
  [101, 100],
  [99, 98],
] as const;

/** What is entered for a parameter: coarse and fine value, and the steps up or down since. */
interface Entered {
  readonly coarse?: number | undefined;
  readonly fine?: number | undefined;
  readonly steps: number;
}

/** Kind, coarse and fine half of a parameter's number, as one. */
const parameterKey = (isRegistered: number, high: number, low: number): number =>
  (isRegistered << 14) | (high << 7) | low;

/**
 * What registered parameters stand at when an instrument is switched on (MIDI 1.0 and GM 2, from memory):
 * bend range, fine and coarse tuning, tuning program and bank, modulation depth.
 */
const usualParameters: Readonly<Record<number, readonly [coarse: number, fine: number]>> = {
  0: [2, 0],
  1: [64, 0],
  2: [64, 0],
  3: [0, 0],
  4: [0, 0],
  5: [0, 64],
};

/** Sound controllers change nothing at 64 (RP-021), reverb is at 40 and chorus at 0 (GM 2; from memory). */
const usualSounds: Readonly<Record<number, number>> = {
  71: 64,
  72: 64,
  73: 64,
  74: 64,
  75: 64,
  76: 64,
  77: 64,
  78: 64,
  91: 40,
  93: 0,
};

/** What an instrument is at when it is switched on; undefined where nobody knows. */
function usual(slot: number): number | undefined {
  if (isBank(slot)) return 0;
  if (slot >= 98 && slot <= 101) return 127;
  if (slot < 120) return usualValue(slot) ?? usualSounds[slot];
  if (slot === local) return 127;
  if (slot === bend) return 8192;
  return slot === registered ? 1 : 0;
}

/** Damper and sostenuto. */
const holdingPedals = [64, 66] as const;
export type HoldingPedal = (typeof holdingPedals)[number];

type Message = readonly [status: number, data1: number, data2: number];

/** What one channel is set to, as the messages so far leave it. */
export class ChannelValues {
  /** Of whom nobody knows anything, so that all that was said has to be said. */
  static readonly unknown = new ChannelValues(undefined, undefined, true);

  private readonly slots: Int16Array;
  private parameters: ReadonlyMap<number, Entered>;
  private readonly isUnknown: boolean;

  constructor(
    slots = new Int16Array(slotCount).fill(-1),
    parameters: ReadonlyMap<number, Entered> = new Map(),
    isUnknown = false,
  ) {
    this.slots = slots;
    this.parameters = parameters;
    this.isUnknown = isUnknown;
  }

  copy = (): ChannelValues => new ChannelValues(this.slots.slice(), this.parameters);

  clear(): void {
    this.slots.fill(-1);
    this.parameters = new Map();
  }

  /** Takes a channel message (status 0xA0–0xEF) in. */
  hear(status: number, data1: number, data2: number): void {
    const { slots } = this;
    switch (status >> 4) {
      case 0xa:
        slots[keyPressure + data1] = data2;
        return;
      case 0xb:
        this.control(data1, data2);
        return;
      case 0xc:
        slots[program] = data1;
        slots[programBank] = slots[0]!;
        slots[programFineBank] = slots[32]!;
        return;
      case 0xd:
        slots[pressure] = data1;
        return;
      case 0xe:
        slots[bend] = data1 | (data2 << 7);
    }
  }

  private control(number: number, value: number): void {
    const { slots } = this;
    if (number >= 120) this.mode(number, value);
    else if (!ofParameters.has(number)) slots[number] = value;
    else if (number >= 98) {
      slots[number] = value;
      slots[registered] = number >= 100 ? 1 : 0;
    } else this.enter(number, value);
  }

  private mode(number: number, value: number): void {
    const { slots } = this;
    if (number === 121) for (const slot of putBack) slots[slot] = -1;
    else if (number === 122) slots[local] = value;
    else if (number === 124 || number === 125) slots[omni] = number - 124;
    else if (number >= 126) slots[mono] = number === 127 ? 0 : value + 1;
  }

  /** Data are for the parameter that is chosen; for the null one (127, 127), which is chosen at first, for none. */
  private enter(number: number, value: number): void {
    const key = this.chosen();
    if (key === undefined) return;
    const had = this.parameters.get(key) ?? { steps: 0 };
    const now: Entered =
      number === 6
        ? { ...had, coarse: value, steps: 0 }
        : number === 38
          ? { ...had, fine: value }
          : { ...had, steps: had.steps + (number === 96 ? 1 : -1) };
    this.parameters = new Map(this.parameters).set(key, now);
  }

  private chosen(): number | undefined {
    const is = this.slots[registered]!;
    if (is === -1) return undefined;
    const [high, low] = is === 1 ? [this.at(101), this.at(100)] : [this.at(99), this.at(98)];
    return high === 127 && low === 127 ? undefined : parameterKey(is, high, low);
  }

  private at(slot: number): number {
    if (this.isUnknown) return -2;
    const value = this.slots[slot]!;
    return value === -1 ? (usual(slot) ?? -1) : value;
  }

  /** Whether a pedal that holds notes is down. */
  holds = (pedal: HoldingPedal): boolean => this.slots[pedal]! >= 64;

  /** Whether a slot matters: to whom nothing is known only what was said does. */
  private need = (wanted: ChannelValues, slot: number): boolean =>
    !this.isUnknown || wanted.slots[slot] !== -1;

  pedalsDown = (): HoldingPedal[] => holdingPedals.filter(this.holds);

  /** What the channel is set to when pedals go up, and the messages that lift them. */
  lifted(
    channel: number,
    pedals: readonly HoldingPedal[],
  ): { values: ChannelValues; messages: Message[] } {
    const values = this.copy();
    for (const pedal of pedals) values.slots[pedal] = 0;
    return { values, messages: pedals.map((pedal): Message => [0xb0 | channel, pedal, 0]) };
  }

  /** Messages that lift the pedals which hold notes, and put the bend back to its centre. */
  settling(channel: number): Message[] {
    const { messages } = this.lifted(channel, this.pedalsDown());
    return this.at(bend) === 8192 ? messages : [...messages, [0xe0 | channel, 0, 64]];
  }

  /**
   * The messages after which a channel that is set as this one is set as `wanted`, and for how much of it
   * there are none, since it was not said before and nobody knows what it was. What `covered` names, by
   * slot, is about to be said anyway.
   */
  upTo(
    wanted: ChannelValues,
    channel: number,
    covered: ReadonlySet<number> = new Set(),
  ): { messages: Message[]; unknown: number } {
    const messages: Message[] = [];
    const control = (number: number, value: number): void =>
      void messages.push([0xb0 | channel, number, value]);
    let unknown = 0;
    const differs = (slot: number): boolean => {
      const value = wanted.at(slot);
      if (value === this.at(slot) || covered.has(slot) || !this.need(wanted, slot)) return false;
      if (value !== -1) return true;
      unknown++;
      return false;
    };
    const banks = this.toProgram(wanted, channel, messages, covered);
    for (const slot of [0, 32] as const)
      if (!covered.has(slot) && wanted.at(slot) !== banks[slot] && this.need(wanted, slot))
        control(slot, wanted.at(slot));
    for (let slot = 1; slot < 120; slot++)
      if (slot !== 32 && !ofParameters.has(slot) && differs(slot)) control(slot, wanted.at(slot));
    if (differs(local)) control(122, wanted.at(local));
    if (differs(omni)) control(124 + wanted.at(omni), 0);
    if (differs(mono)) {
      const is = wanted.at(mono);
      control(is === 0 ? 127 : 126, Math.max(0, is - 1));
    }
    if (differs(bend)) messages.push([0xe0 | channel, wanted.at(bend) & 127, wanted.at(bend) >> 7]);
    if (differs(pressure)) messages.push([0xd0 | channel, wanted.at(pressure), 0]);
    for (let key = 0; key < 128; key++)
      if (differs(keyPressure + key))
        messages.push([0xa0 | channel, key, wanted.at(keyPressure + key)]);
    unknown += this.toParameters(wanted, control);
    return { messages, unknown };
  }

  /** Says the program with its banks, where it or they differ; gives the banks that are chosen then. */
  private toProgram(
    wanted: ChannelValues,
    channel: number,
    messages: Message[],
    covered: ReadonlySet<number>,
  ): Record<0 | 32, number> {
    const banks = { 0: this.at(0), 32: this.at(32) };
    const same = [program, programBank, programFineBank].every(
      (slot) => this.at(slot) === wanted.at(slot),
    );
    if (same || covered.has(program) || !this.need(wanted, program)) return banks;
    for (const [number, slot] of [
      [0, programBank],
      [32, programFineBank],
    ] as const) {
      if (banks[number] === wanted.at(slot) || !this.need(wanted, slot)) continue;
      banks[number] = wanted.at(slot);
      messages.push([0xb0 | channel, number, banks[number]]);
    }
    messages.push([0xc0 | channel, wanted.at(program), 0]);
    return banks;
  }

  /** Says parameters that differ, and then which one is chosen; gives how many nobody knows. */
  private toParameters(
    wanted: ChannelValues,
    control: (number: number, value: number) => void,
  ): number {
    let unknown = 0;
    /** Kinds of which another was chosen to say it. */
    const said = new Set<number>();
    for (const key of new Set([...wanted.parameters.keys(), ...this.parameters.keys()])) {
      const [has, is] = [this, wanted].map((v) =>
        v.isUnknown ? { steps: 0 } : full(key, v.parameters.get(key)),
      ) as [Entered, Entered];
      if (has.coarse === is.coarse && has.fine === is.fine && has.steps === is.steps) continue;
      const missing = is.coarse === undefined && has.coarse !== undefined;
      if (missing || (is.fine === undefined && has.fine !== undefined)) {
        unknown++;
        if (missing) continue;
      }
      said.add(key >> 14);
      choose(key, control);
      // The coarse half sets the steps back.
      const anew = is.coarse !== undefined && (is.coarse !== has.coarse || is.steps !== has.steps);
      if (anew) control(6, is.coarse!);
      if (is.fine !== undefined && is.fine !== has.fine) control(38, is.fine);
      const steps = is.steps - (anew ? 0 : has.steps);
      for (let n = 0; n < Math.abs(steps); n++) control(steps > 0 ? 96 : 97, 0);
    }
    const same = [registered, 98, 99, 100, 101].every((slot) => this.at(slot) === wanted.at(slot));
    const chose = [98, 99, 100, 101].some((slot) => this.need(wanted, slot));
    if (said.size === 0 && (same || !chose)) return unknown;
    // The kind that data are for is the one that is chosen last.
    const isRegistered = wanted.at(registered);
    const [other, its] = isRegistered === 1 ? [nrpn, rpn] : [rpn, nrpn];
    if (said.has(1 - isRegistered) || other.some((slot) => wanted.at(slot) !== this.at(slot)))
      for (const slot of other) control(slot, wanted.at(slot));
    for (const slot of its) control(slot, wanted.at(slot));
    return unknown;
  }
}

/** What was entered for a parameter, with what it is at where nothing was. */
function full(key: number, entered: Entered = { steps: 0 }): Entered {
  const known = key >> 14 === 1 ? usualParameters[key & 0x3fff] : undefined;
  return known
    ? { coarse: entered.coarse ?? known[0], fine: entered.fine ?? known[1], steps: entered.steps }
    : entered;
}

function choose(key: number, control: (number: number, value: number) => void): void {
  const [high, low] = key >> 14 === 1 ? rpn : nrpn;
  control(high, (key >> 7) & 127);
  control(low, key & 127);
}

/** The slots that a channel message sets outright: what is about to be said need not be said before it. */
export function slotsOf(status: number, data1: number): readonly number[] {
  switch (status >> 4) {
    case 0xa:
      return [keyPressure + data1];
    case 0xb:
      return data1 < 120 && !ofParameters.has(data1) ? [data1] : [];
    case 0xc:
      return [program, programBank, programFineBank];
    case 0xd:
      return [pressure];
    case 0xe:
      return [bend];
    default:
      return [];
  }
}
