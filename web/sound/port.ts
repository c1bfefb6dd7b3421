import { moduleName, usePorts } from '../state/ports.ts';
import type { Outgoing } from './messages.ts';
import { toModule } from './module.ts';
import { sayWrong } from '../messages/messages.ts';

/** Sound is held back by so many seconds where a port sounds beside it: what goes there is on its way in time. */
export const portAhead = 0.1;

/** Milliseconds by which the browser's clocks differ from what is known of them only where one of them stood still. */
const leap = 30;

let access: MIDIAccess | undefined;

/** Asks the browser for its MIDI ports: it asks the reader, so it is done when they are wanted. */
export async function askForPorts(): Promise<void> {
  if (usePorts.getState().asked === 'asking' || access) return;
  if (typeof navigator.requestMIDIAccess !== 'function')
    return usePorts.setState({ asked: 'none' });
  usePorts.setState({ asked: 'asking' });
  access = (await withExclusives()) ?? (await withoutExclusives());
  if (!access) return usePorts.setState({ asked: 'refused' });
  access.onstatechange = list;
  usePorts.setState({ asked: 'given' });
  list();
}

const withExclusives = (): Promise<MIDIAccess | undefined> =>
  navigator.requestMIDIAccess({ sysex: true }).then(
    (given) => (usePorts.setState({ exclusives: true }), given),
    () => undefined,
  );
const withoutExclusives = (): Promise<MIDIAccess | undefined> =>
  navigator.requestMIDIAccess().catch(() => undefined);

/** The ports that are there now; one that was chosen and is gone is said. */
function list(): void {
  const outputs = [...(access?.outputs.values() ?? [])].filter((o) => o.state === 'connected');
  const ports = [moduleName, ...outputs.map(({ id, name }) => ({ id, name: name ?? id }))];
  const { chosen, ports: before } = usePorts.getState();
  const gone = before.find((p) => p.id === chosen && !ports.some((now) => now.id === p.id));
  usePorts.setState({ ports });
  if (gone)
    sayWrong(`${gone.name} is gone`, {
      description: 'Its tracks are heard here until it is back.',
    });
}

/** The port that is chosen and there. */
export const usePort = (): string | undefined =>
  usePorts(({ chosen, ports }) => ports.find((p) => p.id === chosen)?.id);

/** Sends messages to the port that is chosen, each for when it is due. */
export function sendOut(messages: readonly Outgoing[], context: AudioContext): void {
  const { chosen, late, exclusives } = usePorts.getState();
  const first = performanceAtZero(context) + portAhead * 1000 + late;
  const output = chosen === undefined ? undefined : access?.outputs.get(chosen);
  for (const { at, bytes } of messages) {
    const due = first + at * 1000;
    if (chosen === moduleName.id) toModule(bytes, due);
    else if (output?.state === 'connected' && (bytes[0] !== 0xf0 || exclusives))
      output.send([...bytes], due);
  }
}

let zero: number | undefined;

/**
 * The page's time, in milliseconds, when the first sample of a context came out. What the browser says of
 * it wavers by some milliseconds: it is followed slowly, unless it has leapt.
 */
function performanceAtZero(context: AudioContext): number {
  const { contextTime = 0, performanceTime = 0 } = context.getOutputTimestamp();
  const said =
    performanceTime > 0
      ? performanceTime - contextTime * 1000
      : performance.now() - context.currentTime * 1000;
  zero = zero === undefined || Math.abs(said - zero) > leap ? said : zero + (said - zero) / 50;
  return zero;
}
