import type { InstrumentDefinition } from './definition.ts';

const none: ReadonlySet<number> = new Set();

/**
 * Keys by which an instrument is told how to play: those that its definition gives a name outside the range
 * it sounds in. They are no notes.
 */
export function keySwitchesOf(definition: InstrumentDefinition | undefined): ReadonlySet<number> {
  if (!definition || definition.drums || definition.keys.length === 0) return none;
  const { playable, keys } = definition;
  if (!playable) return none;
  return new Set(
    keys.map((k) => k.key).filter((key) => key < playable.lowest || key > playable.highest),
  );
}
