/** A channel message by where it stands: which of the tracks that were gone through, and its row there. */
export interface Said {
  readonly track: number;
  readonly row: number;
  readonly data1: number;
  readonly data2: number;
  /** It stands where the state is asked for, and need not be said again. */
  readonly stands: boolean;
}

/** Controllers that 121 puts back, as RP-015 has them; bend, pressure and the chosen parameter go with them. */
const putBack: ReadonlySet<number> = new Set([1, 11, 64, 65, 66, 67]);

/** Data entry, coarse and fine, and steps up and down. */
const entering: ReadonlySet<number> = new Set([6, 38, 96, 97]);

const chooses = (number: number): boolean => number >= 98 && number <= 101;
const ofParameters = (number: number): boolean => chooses(number) || entering.has(number);

interface Chosen {
  readonly registered: boolean;
  readonly coarse?: Said;
  readonly fine?: Said;
  /** What chose the other kind of parameter last: until both halves are said, it is why the half that lacks is none. */
  readonly other?: Said | undefined;
}

/** Messages that count together, and when the last of them was said. */
interface Unit {
  readonly order: number;
  readonly said: readonly Said[];
}

/**
 * What of the messages of one channel still counts: of each controller, of bend, pressure and program the
 * last, a program with the bank it was chosen from, each registered or unregistered parameter with what
 * chose it. They come in the order in which they were said, so that whoever gets them arrives where whoever
 * got all of them did.
 */
export class ChannelState {
  private readonly units = new Map<string, Unit>();
  private readonly bank = new Map<0 | 32, Said>();
  private chosen: Chosen | undefined;
  /** What was entered for each parameter and still counts. */
  private readonly entered = new Map<string, readonly Said[]>();
  private told = 0;
  private resets = 0;
  /** Whether data were entered since the last reset by less than both halves of a parameter. */
  private leans = false;

  say(status: number, said: Said): void {
    this.told++;
    const kind = status >> 4;
    if (kind === 0xc) this.put('program', [...this.bank.values(), said]);
    else if (kind === 0xd) this.put('pressure', [said]);
    else if (kind === 0xe) this.put('bend', [said]);
    else if (kind === 0xb) this.control(said.data1, said);
  }

  private control(number: number, said: Said): void {
    if (number === 0 || number === 32) {
      // Where it chooses the bank of a program to come.
      this.bank.delete(number);
      this.bank.set(number, said);
      this.put('bank', [...this.bank.values()]);
    } else if (said.stands && ofParameters(number)) {
      // It leans on what was chosen and entered before, all of which is said.
      return;
    } else if (chooses(number)) this.choose(number, said);
    else if (entering.has(number)) this.enter(this.parameter(), said);
    else if (number < 120) this.put(`controller ${number}`, [said]);
    else if (number === 121) this.reset(said);
    else if (number === 122) this.put('local', [said]);
    else if (number === 124 || number === 125) this.put('omni', [said]);
    else if (number >= 126) this.put('poly', [said]);
  }

  private choose(number: number, said: Said): void {
    const registered = number >= 100;
    const had: Chosen = this.chosen ?? { registered };
    const before =
      had.registered === registered ? had : { registered, other: had.coarse ?? had.fine };
    const is: Chosen = { ...before, [number % 2 === 1 ? 'coarse' : 'fine']: said };
    this.chosen = is;
    this.put('chosen', choice(is));
  }

  /** Name of the parameter that data are for; undefined where none is chosen, or the null one (127, 127). */
  private parameter(): string | undefined {
    if (!this.chosen) return undefined;
    const { registered, coarse, fine } = this.chosen;
    const [high, low] = [coarse?.data2, fine?.data2];
    return high === 127 && low === 127
      ? undefined
      : `${registered ? 'RPN' : 'NRPN'} ${high} ${low}`;
  }

  private enter(parameter: string | undefined, said: Said): void {
    const chosen = this.chosen ? choice(this.chosen) : [];
    if (!this.chosen?.coarse || !this.chosen.fine) this.leans = true;
    if (parameter === undefined) {
      this.put(`controller ${said.data1}`, [...chosen, said]);
      return;
    }
    const before = this.entered.get(parameter) ?? [];
    const { data1: number } = said;
    // The coarse half sets the value anew; the fine half stands for itself; steps count from where it is.
    const counts =
      number === 6
        ? before.filter((s) => s.data1 === 38)
        : before.filter((s) => number !== 38 || s.data1 !== 38);
    const now = [...counts, said];
    this.entered.set(parameter, now);
    this.put(parameter, [...chosen, ...now]);
    // What is chosen is said with it.
    this.units.delete('chosen');
  }

  private reset(said: Said): void {
    for (const number of putBack) this.units.delete(`controller ${number}`);
    for (const key of ['bend', 'pressure']) this.units.delete(key);
    if (said.stands) return;
    this.units.delete('chosen');
    this.chosen = undefined;
    // One that data lean on stays: else they would be said to what was chosen before it.
    if (this.leans) this.resets++;
    this.leans = false;
    this.put(`reset ${this.resets}`, [said]);
  }

  private put(key: string, said: readonly Said[]): void {
    // A bank that a program took is said with that.
    if (key === 'program') this.units.delete('bank');
    this.units.set(key, { order: this.told, said });
  }

  /** The messages that still count, but for those that stand where it is asked for. */
  inForce(): readonly Said[] {
    return [...this.units.values()]
      .sort((a, b) => a.order - b.order)
      .flatMap(({ said }) => said.filter(({ stands }) => !stands));
  }
}

const choice = ({ coarse, fine, other }: Chosen): readonly Said[] =>
  [coarse && fine ? undefined : other, coarse, fine].filter((said) => said !== undefined);
