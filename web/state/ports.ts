import { create } from 'zustand';

const place = 'port';

/** A MIDI port that songs can be sent to while they are played. */
export interface PortName {
  readonly id: string;
  readonly name: string;
}

/** The device that comes along and shows what it receives. */
export const moduleName: PortName = { id: 'sound-module', name: 'Sound module, on this page' };

/** To which MIDI port songs sound, and how. Kept in this browser. */
interface Ports {
  readonly chosen: string | undefined;
  readonly clock: boolean;
  /** Milliseconds that the port is sent later than what is heard here; less than 0 is earlier. */
  readonly late: number;
  /** Whether the browser was asked for its ports, and what it said. */
  readonly asked: 'not yet' | 'asking' | 'given' | 'refused' | 'none';
  readonly ports: readonly PortName[];
  /** Whether the browser lets system exclusive messages through. */
  readonly exclusives: boolean;
}

export const mostLate = 500;
export const mostEarly = 90;

const kept = (): Partial<Ports> => {
  try {
    const { chosen, clock, late } = JSON.parse(localStorage.getItem(place) ?? '{}') as Ports;
    return {
      ...(typeof chosen === 'string' ? { chosen } : {}),
      ...(typeof clock === 'boolean' ? { clock } : {}),
      ...(typeof late === 'number' && late >= -mostEarly && late <= mostLate ? { late } : {}),
    };
  } catch {
    return {};
  }
};

export const usePorts = create<Ports>(() => ({
  chosen: undefined,
  clock: true,
  late: 0,
  asked: 'not yet',
  ports: [moduleName],
  exclusives: false,
  ...kept(),
}));

usePorts.subscribe(({ chosen, clock, late }) => {
  try {
    localStorage.setItem(place, JSON.stringify({ chosen, clock, late }));
  } catch {
    // A browser that keeps nothing has it in this window only.
  }
});
