import type { Instrument } from './player.ts';

/** A note of a track begins on a channel or, with velocity 0, ends. */
export type Heard = (track: number, channel: number, key: number, velocity: number) => void;

/** An instrument, with somebody told of every note that a track plays on it. */
export function watched(to: Instrument, heard: Heard): Instrument {
  return {
    message(port, status, data1, data2, track) {
      to.message(port, status, data1, data2, track);
      const kind = status >> 4;
      if (track !== undefined && (kind === 8 || kind === 9))
        heard(track, status & 15, data1, kind === 9 ? data2 : 0);
    },
    systemExclusive: (port, bytes) => to.systemExclusive(port, bytes),
    silence: (track) => to.silence?.(track),
    reset: () => to.reset(),
  };
}
