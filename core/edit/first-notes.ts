import { isChannelMessage, type Events } from '../smf/events.ts';

/**
 * When the music of an event begins: for a channel message the tick of the first note on its channel, for
 * anything else that of the track. Infinity where no note ever comes.
 */
export function firstNotes({
  status,
  data2,
  atTick,
  count,
}: Events): (eventStatus: number) => number {
  const onChannel = new Float64Array(16).fill(Infinity);
  let onTrack = Infinity;
  for (let i = count - 1; i >= 0; i--)
    if (status[i]! >> 4 === 9 && data2[i] !== 0) onTrack = onChannel[status[i]! & 15] = atTick[i]!;
  return (eventStatus) => (isChannelMessage(eventStatus) ? onChannel[eventStatus & 15]! : onTrack);
}
