import type { Events } from '../smf/events.ts';

/** A sound that a song plays, and on which keys: in threes a key, its lowest and its highest velocity. */
export interface SoundNeeded {
  readonly drums: boolean;
  /** Bank select as the file has it: high and low part. */
  readonly bank: readonly [number, number];
  readonly program: number;
  readonly keys: readonly number[];
}

interface Change {
  readonly tick: number;
  readonly program: number;
  readonly bank: readonly [number, number];
}

/** The sounds that tracks play, so that they can be made ready before they are needed; the first needed first. */
export function soundsNeeded(tracks: readonly Events[], ports: readonly number[]): SoundNeeded[] {
  const changes = programChanges(tracks, ports);
  const found = new Map<string, { sound: Omit<SoundNeeded, 'keys'>; tick: number; keys: Keys }>();
  tracks.forEach((events, n) => {
    const at = new Uint32Array(16);
    for (let i = 0; i < events.count; i++) {
      const velocity = events.data2[i]!;
      if (events.status[i]! >> 4 !== 9 || velocity === 0) continue;
      const channel = events.status[i]! & 15;
      const tick = events.atTick[i]!;
      const on = changes.get(ports[n]! * 16 + channel) ?? none;
      while (on[at[channel]! + 1] && on[at[channel]! + 1]!.tick <= tick) at[channel]!++;
      const first = on[at[channel]!];
      const { program, bank } = first && first.tick <= tick ? first : atStart;
      const drums = channel === 9;
      const name = `${drums} ${bank.join('.')} ${program}`;
      const had = found.get(name);
      if (had) had.tick = Math.min(had.tick, tick);
      const { keys } = had ?? { keys: new Map() as Keys };
      if (!had) found.set(name, { sound: { drums, bank, program }, tick, keys });
      const key = keys.get(events.data1[i]!);
      if (!key) keys.set(events.data1[i]!, [velocity, velocity]);
      else if (velocity < key[0]) key[0] = velocity;
      else if (velocity > key[1]) key[1] = velocity;
    }
  });
  return [...found.values()]
    .sort((a, b) => a.tick - b.tick)
    .map(({ sound, keys }) => ({ ...sound, keys: [...keys].flatMap(([k, [a, b]]) => [k, a, b]) }));
}

/** By key its lowest and highest velocity. */
type Keys = Map<number, [number, number]>;

const atStart = { program: 0, bank: [0, 0] } as const;
const none: readonly Change[] = [];

/** The programs of every channel (port * 16 + channel) in the order of time, whichever track says them. */
function programChanges(
  tracks: readonly Events[],
  ports: readonly number[],
): Map<number, readonly Change[]> {
  const said = new Map<number, { tick: number; number: number; value: number }[]>();
  tracks.forEach(({ count, status, atTick, data1, data2 }, n) => {
    for (let i = 0; i < count; i++) {
      const kind = status[i]! >> 4;
      const number = kind === 0xc ? -1 : kind === 0xb ? data1[i]! : undefined;
      if (number !== -1 && number !== 0 && number !== 32) continue;
      const channel = ports[n]! * 16 + (status[i]! & 15);
      const value = number === -1 ? data1[i]! : data2[i]!;
      const before = said.get(channel);
      if (before) before.push({ tick: atTick[i]!, number, value });
      else said.set(channel, [{ tick: atTick[i]!, number, value }]);
    }
  });
  return new Map(
    [...said].map(([channel, list]) => {
      const changes: Change[] = [];
      let [high, low] = [0, 0];
      for (const { tick, number, value } of list.sort((a, b) => a.tick - b.tick))
        if (number === 0) high = value;
        else if (number === 32) low = value;
        else changes.push({ tick, program: value, bank: [high, low] });
      return [channel, changes];
    }),
  );
}
