import { useCallback, useEffect, useEffectEvent, useMemo } from 'react';
import { keyCommands } from '#contracts/key-commands.ts';
import type { SongView } from '#contracts/songs.ts';
import { mapsOf } from '#core/song/maps.ts';
import { positionAt } from '#core/timing/meter-map.ts';
import { commandOf } from '../keys/pressed.ts';
import { isTyping } from '../components/is-typing.ts';
import { useOffer } from '../state/commands.ts';
import { useChosen } from '../state/chosen.ts';
import { useScope, type Bars } from '../state/scope.ts';
import { say } from '../messages/messages.ts';

/** The bars of what is chosen: notes or events by hand, else what the selected tracks play. */
function barsOfChosen(song: SongView): Bars | undefined {
  const { meters } = mapsOf(song);
  const byHand = useChosen.getState().chosen?.ticks();
  const { tracks } = useScope.getState();
  const played = song.tracks.filter((t) => tracks.has(t.id) && t.firstNoteTick !== undefined);
  const span =
    byHand ??
    (played.length > 0
      ? {
          from: Math.min(...played.map((t) => t.firstNoteTick!)),
          to: Math.max(...played.map((t) => t.lastNoteTick ?? t.firstNoteTick!)),
        }
      : undefined);
  if (!span) return undefined;
  const [from, to] = [span.from, span.to].map((tick) => positionAt(meters, tick).bar);
  return { from: from!, to: Math.min(to!, song.timing.bars) };
}

/** The bars of the scope become those of what is chosen; where nothing is, that is said. */
export function setBarsOfChosen(song: SongView): void {
  const bars = barsOfChosen(song);
  if (bars) useScope.getState().span(bars);
  else say('Nothing is chosen: choose notes, events or tracks first.');
}

/** A key sets the bars of the scope to what is chosen; it is in the palette, too. */
export function useBarsKey(song: SongView): void {
  const set = useCallback(() => setBarsOfChosen(song), [song]);
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    if (commandOf(e, 'song') !== 'bars' || e.defaultPrevented || isTyping(e.target)) return;
    set();
    e.preventDefault();
  });
  useEffect(() => {
    const listener = (e: KeyboardEvent): void => onKey(e);
    addEventListener('keydown', listener);
    return () => removeEventListener('keydown', listener);
  }, []);
  const commands = useMemo(
    () => [{ title: keyCommands.bars.title, key: 'bars' as const, run: set }],
    [set],
  );
  useOffer('bars', commands);
}
