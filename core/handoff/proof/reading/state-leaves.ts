import type { Leaving } from '../../take-settings.ts';
import { takesController } from './leaving.ts';

/** The numbers that a parameter is said with (MIDI 1.0): what chooses it, then by its last word what enters it. */
const chooses: Readonly<Record<string, readonly number[]>> = { RPN: [100, 101], NRPN: [98, 99] };
const enters: Readonly<Record<string, number>> = { coarse: 6, fine: 38, up: 96, down: 97 };

/** The controllers without which something is not said at all. */
function saidWith(name: string): readonly number[] {
  if (name === 'bank') return [0, 32];
  const [first, ...rest] = name.split(' ');
  if (first === 'controller') return [Number(rest[0])];
  const choose = chooses[first!];
  return choose ? [...choose, enters[rest.at(-1)!]!] : [];
}

/** Which parts of what a channel has in force leave at all, by their names in `channel.ts`. */
export function stateLeaves(take: Leaving): (name: string) => boolean {
  const without = new Set(take.without);
  return (name) => {
    if (saidWith(name).some((n) => without.has(n))) return false;
    if (name === 'program' || name === 'bank') return take.programs;
    if (name === 'bend') return take.bend;
    if (name === 'pressure') return take.pressure;
    if (name.startsWith('RPN 0 0 ')) return take.controllers || take.bend;
    const number = Number(/^controller (\d+)$/.exec(name)?.[1] ?? -1);
    return number < 0 ? take.controllers : takesController(take, number);
  };
}
