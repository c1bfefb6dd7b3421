import { isChannelMessage, META, meta, type Events } from '../smf/events.ts';

const onlyNames: ReadonlySet<number> = new Set([
  meta.trackName,
  meta.instrumentName,
  meta.endOfTrack,
  meta.channelPrefix,
  meta.port,
]);
const ofAnInstrument: ReadonlySet<number> = new Set([
  ...onlyNames,
  meta.deviceName,
  meta.programName,
]);

/** Nothing but a name: no message, no text, no timing. */
export const isEmpty = (events: Events): boolean =>
  events.status.every((s, i) => s === META && onlyNames.has(events.data1[i]!));

/** Channel messages but no note, and nothing beside them but names. */
export function setsUpOnly({ count, status, data1 }: Events): boolean {
  let messages = 0;
  for (let i = 0; i < count; i++) {
    const kind = status[i]! >> 4;
    if (kind === 8 || kind === 9) return false;
    if (isChannelMessage(status[i]!)) messages++;
    else if (status[i] !== META || !ofAnInstrument.has(data1[i]!)) return false;
  }
  return messages > 0;
}
