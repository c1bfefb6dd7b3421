import type { InstrumentDefinition } from '../instruments/definition.ts';
import { sentBy } from '../instruments/sent-by.ts';
import { percussionChannel } from '../instruments/general-midi.ts';
import { limitsOfDefinition, limitsOfSound, type Limits } from '../instruments/limits.ts';
import type { Events } from '../smf/events.ts';
import type { Track } from './song.ts';

/** A program as a part says it: all from 0. */
export interface SaidProgram {
  readonly channel: number;
  readonly program: number;
  readonly bank?: number;
}

/** Whether a program is the one that chooses a definition; it counts no more where another stands in its place. */
export function choosesIt(
  definition: InstrumentDefinition,
  said: SaidProgram | undefined,
): boolean {
  if (!said || definition.drums !== (said.channel === percussionChannel)) return false;
  const { program, bank } = sentBy(definition);
  return said.program === program && (bank === null || said.bank === bank);
}

/** The first program on the channel of a part's first note, with the bank that was said before it there. */
export function firstProgram({ count, status, data1, data2 }: Events): SaidProgram | undefined {
  const note = status.findIndex((s, i) => s >> 4 === 9 && data2[i]! > 0);
  if (note === -1) return undefined;
  const channel = status[note]! & 15;
  let bank: number | undefined;
  for (let i = 0; i < count; i++) {
    if (status[i] === (0xc0 | channel))
      return { channel, program: data1[i]!, ...(bank === undefined ? {} : { bank }) };
    if (status[i] !== (0xb0 | channel)) continue;
    if (data1[i] === 0) bank = ((bank ?? 0) & 127) | (data2[i]! << 7);
    else if (data1[i] === 32) bank = ((bank ?? 0) & ~127) | data2[i]!;
  }
  return undefined;
}

/**
 * What plays a part can do: as its definition says, else as its first program is known for; undefined where
 * neither says anything.
 */
export function limitsOf({ events, instrument }: Track): Limits | undefined {
  const said = firstProgram(events);
  if (instrument && choosesIt(instrument, said)) return limitsOfDefinition(instrument);
  return said && limitsOfSound(said.program, said.channel === percussionChannel);
}
