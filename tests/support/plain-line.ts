import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, type Events } from '#core/smf/events.ts';
import { TokenCosts } from '#core/smf/salvage/token-costs.ts';

/** A line of notes in eighths at 96 PPQ, four keys, every note 40 ticks long. */
export const line = (notes: number): Events =>
  eventsFrom(
    Array.from({ length: notes }, (_, n) => [
      channelEvent(n * 48, 0x90, 60 + (n % 4), 70 + (n % 3)),
      channelEvent(n * 48 + 40, 0x80, 60 + (n % 4), 64),
    ]).flat(),
  );

/** What is usual in the bytes of a track. */
export function learnt(bytes: Uint8Array): TokenCosts {
  const costs = new TokenCosts();
  costs.count(bytes, 0, bytes.length);
  return costs;
}
