import type { Song, Track } from '#core/song/song.ts';

/**
 * A device by values, apart from the core's: for each port sixteen channels as they are when it is switched
 * on, with what was sent since. MIDI 1.0 for messages and parameters (RPN and NRPN keep their numbers apart;
 * null is 127, 127), RP-015 for controller 121, General MIDI for values at the beginning (from memory).
 */
type Values = Map<string, number>;

const atStart: Readonly<Record<string, number>> = {
  cc0: 0,
  cc32: 0,
  cc1: 0,
  cc7: 100,
  cc10: 64,
  cc11: 127,
  cc64: 0,
  cc65: 0,
  cc66: 0,
  cc67: 0,
  cc71: 64,
  cc72: 64,
  cc73: 64,
  cc74: 64,
  cc75: 64,
  cc76: 64,
  cc77: 64,
  cc78: 64,
  cc91: 40,
  cc93: 0,
  bend: 8192,
  pressure: 0,
  program: 0,
  bank: 0,
  fine: 0,
  rpnHigh: 127,
  rpnLow: 127,
  nrpnHigh: 127,
  nrpnLow: 127,
  kind: 1,
  'rpn 0 0 msb': 2,
  'rpn 0 0 lsb': 0,
  'rpn 0 1 msb': 64,
  'rpn 0 1 lsb': 0,
  'rpn 0 2 msb': 64,
  'rpn 0 2 lsb': 0,
};

function send(values: Values, status: number, a: number, b: number): void {
  const kind = status >> 4;
  if (kind === 0xa) values.set(`key ${a}`, b);
  if (kind === 0xc)
    values
      .set('program', a)
      .set('bank', values.get('cc0') ?? 0)
      .set('fine', values.get('cc32') ?? 0);
  if (kind === 0xd) values.set('pressure', a);
  if (kind === 0xe) values.set('bend', a + b * 128);
  if (kind !== 0xb) return;
  if (a === 99) values.set('nrpnHigh', b).set('kind', 0);
  else if (a === 98) values.set('nrpnLow', b).set('kind', 0);
  else if (a === 101) values.set('rpnHigh', b).set('kind', 1);
  else if (a === 100) values.set('rpnLow', b).set('kind', 1);
  else if ([6, 38, 96, 97].includes(a)) data(values, a, b);
  else if (a === 121)
    for (const name of [
      'cc1',
      'cc11',
      'cc64',
      'cc65',
      'cc66',
      'cc67',
      'bend',
      'pressure',
      'kind',
      'rpnHigh',
      'rpnLow',
      'nrpnHigh',
      'nrpnLow',
    ])
      values.delete(name);
  else if (a < 120) values.set(`cc${a}`, b);
}

function data(values: Values, a: number, b: number): void {
  if (!values.has('kind')) return;
  const name = values.get('kind') === 1 ? 'rpn' : 'nrpn';
  const [high, low] = [values.get(`${name}High`) ?? 127, values.get(`${name}Low`) ?? 127];
  if (high === 127 && low === 127) return;
  const its = `${name} ${high} ${low}`;
  if (a === 6) values.set(`${its} msb`, b).set(`${its} steps`, 0);
  else if (a === 38) values.set(`${its} lsb`, b);
  else values.set(`${its} steps`, (values.get(`${its} steps`) ?? 0) + (a === 96 ? 1 : -1));
}

/** What differs from how a device begins, in words; so that what was never said and what is usual are alike. */
function words(values: Values): string {
  return [...values]
    .filter(
      ([name, value]) => value !== (atStart[name] ?? (/^key|steps$/.test(name) ? 0 : undefined)),
    )
    .map(([name, value]) => `${name}=${value}`)
    .sort()
    .join(' ');
}

export interface Met {
  readonly track: string;
  readonly atTick: number;
  readonly key: number;
  readonly channel: number;
  readonly velocity: number;
  /** What the channel is set to as it begins. */
  readonly words: string;
}

const portOf = ({ events }: Track): number => {
  for (let i = 0; i < events.count; i++)
    if (events.status[i] === 0xff && events.data1[i] === 0x21)
      return events.pool.bytes[events.pool.start[events.payload[i]!]!] ?? 0;
  return 0;
};

const isParked = ({ parked = [] }: Track, status: number, a: number): boolean => {
  const lane = { 0xb: String(a), 0xc: 'program', 0xd: 'pressure', 0xe: 'bend' }[status >> 4];
  return lane !== undefined && parked.includes(`${status & 15}:${lane}`);
};

/**
 * What stands on tick 0 before the first note of its track sets it up: whether it is heard before the notes
 * that others begin with there depends on who plays.
 */
function placeInTime({ events }: Track, headsFirst: boolean): (row: number) => number {
  if (!headsFirst) return (row) => events.atTick[row]!;
  const first = events.status.findIndex((s, row) => s >> 4 === 9 && events.data2[row]! > 0);
  return (row) =>
    events.atTick[row] === 0 && (first === -1 || row < first) ? -1 : events.atTick[row]!;
}

/** What each note of a song, or of some of its tracks alone, meets as it begins. */
export function metByNotes(song: Song, only?: ReadonlySet<string>, headsFirst = false): Met[] {
  const ports = new Map<number, Values[]>();
  const messages = song.tracks
    .filter((t) => only?.has(t.id) ?? true)
    .flatMap((track, place) => {
      const port = portOf(track);
      if (!ports.has(port))
        ports.set(
          port,
          Array.from({ length: 16 }, () => new Map<string, number>()),
        );
      const at = placeInTime(track, headsFirst);
      return Array.from({ length: track.events.count }, (_, row) => ({
        track,
        place,
        row,
        port,
        at: at(row),
      }));
    })
    .sort((x, y) => x.at - y.at || x.place - y.place || x.row - y.row);
  const met: Met[] = [];
  for (const { track, row, port } of messages) {
    const { status, data1, data2, atTick } = track.events;
    const [is, a, b] = [status[row]!, data1[row]!, data2[row]!];
    if (is >= 0xf0) continue;
    const values = ports.get(port)![is & 15]!;
    if (is >> 4 === 9 && b > 0)
      met.push({
        track: track.id,
        atTick: atTick[row]!,
        key: a,
        channel: is & 15,
        velocity: b,
        words: words(values),
      });
    else if (!isParked(track, is, a)) send(values, is, a, b);
  }
  return met;
}
