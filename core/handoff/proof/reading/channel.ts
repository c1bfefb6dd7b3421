/** Data entry for a parameter, what chooses one, and the bank of a program to come: parts of larger messages. */
const entry: ReadonlySet<number> = new Set([6, 38, 96, 97]);
/** What 121 puts back (RP-015), beside bend, pressure and the chosen parameter. */
const putBack = [1, 11, 64, 65, 66, 67];

/**
 * A channel of an instrument as messages leave it, by values: what the proof holds a file against, and
 * nothing else uses. What is at rest counts as never said.
 */
export class Channel {
  /** It was set up from nothing: then its program is the first, of the first bank (General MIDI). */
  private readonly isSetUp: boolean;
  private values = new Map<string, number>();
  private bank = { 0: -1, 32: -1 };
  private chosen = { registered: true, high: -1, low: -1 };
  private said: string | undefined = '';

  constructor({ isSetUp = false }: { isSetUp?: boolean } = {}) {
    this.isSetUp = isSetUp;
  }

  /** Takes a channel message but notes. */
  hear(status: number, data1: number, data2: number): void {
    this.said = undefined;
    const kind = status >> 4;
    if (kind === 0xc) {
      const bank = this.bank[0] * 128 + this.bank[32];
      const isFirst = this.isSetUp && data1 === 0 && this.bank[0] <= 0 && this.bank[32] <= 0;
      this.set('program', data1, isFirst ? 0 : undefined);
      this.set('bank', bank, isFirst ? bank : undefined);
    } else if (kind === 0xd) this.set('pressure', data1, 0);
    else if (kind === 0xe) this.set('bend', data1 + data2 * 128, 8192);
    else if (kind === 0xb) this.control(data1, data2);
  }

  private control(number: number, value: number): void {
    if (number === 0 || number === 32) this.bank[number] = value;
    else if (number >= 98 && number <= 101) this.choose(number, value);
    else if (entry.has(number)) this.enter(number, value);
    else if (number === 121) {
      for (const n of putBack) this.values.delete(`controller ${n}`);
      for (const name of ['pressure', 'bend']) this.values.delete(name);
      this.chosen = { registered: true, high: -1, low: -1 };
    } else if (number < 120) {
      const off = number >= 64 && number <= 69 && value < 64;
      this.set(`controller ${number}`, off ? 0 : value, isRest(number) ? 0 : undefined);
    } else if (number === 122) this.set('local', value);
    else if (number === 124 || number === 125) this.set('omni', number);
    else if (number > 125) this.set('poly', number);
  }

  private choose(number: number, value: number): void {
    const registered = number >= 100;
    const had = this.chosen.registered === registered ? this.chosen : { high: -1, low: -1 };
    this.chosen = { ...had, registered, [number % 2 === 1 ? 'high' : 'low']: value };
  }

  private enter(number: number, value: number): void {
    const { registered, high, low } = this.chosen;
    if (high < 0 || low < 0 || (high === 127 && low === 127)) return;
    const name = `${registered ? 'RPN' : 'NRPN'} ${high} ${low}`;
    if (number === 6) {
      this.set(`${name} coarse`, value);
      for (const rest of ['up', 'down']) this.values.delete(`${name} ${rest}`);
    } else if (number === 38) this.set(`${name} fine`, value);
    else {
      const way = `${name} ${number === 96 ? 'up' : 'down'}`;
      this.set(way, (this.values.get(way) ?? 0) + 1);
    }
  }

  private set(name: string, value: number, rest?: number): void {
    if (value === rest) this.values.delete(name);
    else this.values.set(name, value);
  }

  /** All that is in force, in words that are the same where it is; what `counts` lets through. */
  words(counts: (name: string) => boolean): string {
    return (this.said ??= [...this.values]
      .filter(([name]) => counts(name))
      .map(([name, value]) => `${name} ${value}`)
      .sort()
      .join(', '));
  }
}

const isRest = (number: number): boolean => number === 1 || (number >= 64 && number <= 69);
