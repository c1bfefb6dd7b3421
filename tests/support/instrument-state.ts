import type { Song } from '#core/song/song.ts';

/**
 * What an instrument of one port has on its channels, by values: MIDI 1.0's controllers, bend, pressure and
 * programs with the banks they were chosen from; the parameters of RPN and NRPN with their coarse and fine
 * value and the steps since; 121 as RP-015 has it. Parts of it that a message was never sent for are
 * absent.
 */
interface Channel {
  readonly controllers: Map<number, number>;
  readonly parameters: Map<string, { coarse?: number; fine?: number; steps: number }>;
  readonly bank: { msb?: number; lsb?: number };
  program?: string;
  bend?: number;
  pressure?: number;
  registered?: boolean;
  high: number | undefined;
  low: number | undefined;
}

const fresh = (): Channel => ({
  controllers: new Map(),
  parameters: new Map(),
  bank: {},
  high: undefined,
  low: undefined,
});

/**
 * What each note of a song, or of some of its tracks, meets as it begins, of some tracks also as it ends:
 * channel, tick and key, and in words all that its channel has then.
 */
export function metByNotes(
  song: Song,
  whose?: ReadonlySet<string>,
  ends = whose !== undefined,
): string[] {
  const channels = Array.from({ length: 16 }, fresh);
  const met: string[] = [];
  for (const { atTick, status, a, b, id } of inOrder(song)) {
    const channel = channels[status & 15]!;
    const begins = status >> 4 === 9 && b > 0;
    if (!begins) hear(channel, status >> 4, a, b);
    if (whose?.has(id) === false) continue;
    if (begins || (ends && status >> 4 < 10 && status >> 4 > 7))
      met.push(`${status & 15} ${atTick} ${a}: ${words(channel)}`);
  }
  return met;
}

function inOrder(song: Song) {
  return song.tracks
    .flatMap(({ id, events }, track) =>
      Array.from({ length: events.count }, (_, row) => ({
        track,
        row,
        id,
        atTick: events.atTick[row]!,
        status: events.status[row]!,
        a: events.data1[row]!,
        b: events.data2[row]!,
      })),
    )
    .filter(({ status }) => status < 0xf0)
    .sort((x, y) => x.atTick - y.atTick || x.track - y.track || x.row - y.row);
}

function hear(channel: Channel, kind: number, a: number, b: number): void {
  if (kind === 0xc) channel.program = `${channel.bank.msb} ${channel.bank.lsb} ${a}`;
  if (kind === 0xd) channel.pressure = a;
  if (kind === 0xe) channel.bend = a + b * 128;
  if (kind !== 0xb) return;
  if (a === 0) channel.bank.msb = b;
  else if (a === 32) channel.bank.lsb = b;
  else if (a >= 98 && a <= 101) {
    const registered = a >= 100;
    if (channel.registered !== registered) channel.high = channel.low = undefined;
    channel.registered = registered;
    if (a === 99 || a === 101) channel.high = b;
    else channel.low = b;
  } else if ([6, 38, 96, 97].includes(a)) enter(channel, a, b);
  else if (a === 121) {
    for (const number of [1, 11, 64, 65, 66, 67]) channel.controllers.delete(number);
    delete channel.bend;
    delete channel.pressure;
    delete channel.registered;
    channel.high = channel.low = undefined;
  } else if (a !== 120 && a !== 123) channel.controllers.set(a, b);
}

function enter(channel: Channel, a: number, b: number): void {
  const { registered, high, low } = channel;
  if (registered === undefined || (high === 127 && low === 127)) {
    channel.controllers.set(a, b);
    return;
  }
  const name = `${registered ? 'RPN' : 'NRPN'} ${high} ${low}`;
  const had = channel.parameters.get(name) ?? { steps: 0 };
  channel.parameters.set(
    name,
    a === 6
      ? { ...had, coarse: b, steps: 0 }
      : a === 38
        ? { ...had, fine: b }
        : { ...had, steps: had.steps + (a === 96 ? 1 : -1) },
  );
}

const words = ({ controllers, parameters, bank, program, bend, pressure, ...rest }: Channel) =>
  JSON.stringify([
    [...controllers].sort(([x], [y]) => x - y),
    // Values alone: which half was said first makes no other value.
    [...parameters]
      .map(([name, { coarse, fine, steps }]) => [name, coarse, fine, steps] as const)
      .sort(([x], [y]) => (x < y ? -1 : 1)),
    bank.msb,
    bank.lsb,
    program,
    bend,
    pressure,
    rest.registered,
    rest.high,
    rest.low,
  ]);
