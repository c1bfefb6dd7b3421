import type { Instrument } from './player.ts';

const drumChannel = 9;

/**
 * An instrument on which everything is played with one program, from 0, whatever is said of programs and banks:
 * of drums the kit, of all else the sound.
 */
export function withProgram(
  to: Instrument,
  { program, drums }: { program: number; drums: boolean },
): Instrument {
  const meant = (status: number): boolean => ((status & 15) === drumChannel) === drums;
  const say = (): void => {
    for (let channel = 0; channel < 16; channel++)
      if (meant(channel)) to.message(0, 0xc0 | channel, program, 0);
  };
  return {
    message(port, status, data1, data2, track) {
      const kind = status >> 4;
      const chooses = kind === 0xc || (kind === 0xb && (data1 === 0 || data1 === 32));
      if (!chooses || !meant(status)) to.message(port, status, data1, data2, track);
    },
    systemExclusive: (port, bytes) => to.systemExclusive(port, bytes),
    silence: (track) => to.silence?.(track),
    reset() {
      to.reset();
      say();
    },
  };
}
