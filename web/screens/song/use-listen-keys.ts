import { keyNow } from '../../keys/shown.ts';
import { useEffect, useEffectEvent, useMemo, useRef } from 'react';
import { keyCommands, type KeyCommandId } from '#contracts/key-commands.ts';
import type { SongView } from '#contracts/songs.ts';
import type { Maps } from '#core/song/maps.ts';
import { barTick } from '#core/timing/meter-map.ts';
import { lastSixteenth } from '#core/playing/midi-clock.ts';
import { secondsToTicks, ticksToSeconds } from '#core/timing/tempo-map.ts';
import { usePorts } from '../../state/ports.ts';
import { commandOf } from '../../keys/pressed.ts';
import { isTyping } from '../../components/is-typing.ts';
import { hush, listen, panic } from '../../sound/listen.ts';
import { switchTo, useAuditioned } from '../../state/auditioned.ts';
import { useOffer } from '../../state/commands.ts';
import { useHearing } from '../../state/hearing.ts';
import { usePlaying } from '../../state/playing.ts';
import { useScope } from '../../state/scope.ts';
import { useLights } from '../../state/lights.ts';
import { say } from '../../messages/messages.ts';

/** Says what it did: where no bars are chosen nothing is seen of it. */
function toggleLoop(): void {
  const loops = useHearing.getState().atEnd !== 'comes round';
  useHearing.setState({ atEnd: loops ? 'comes round' : 'plays on' });
  say(loops ? 'The chosen bars are heard again and again' : 'Heard through to the end', {
    about: 'loop',
    description:
      loops && !useScope.getState().bars
        ? 'No bars are chosen yet: drag over the strip.'
        : undefined,
  });
}

/** Switches between the song as it is and as it would be, and says which is heard. */
export function switchBeforeAfter(): void {
  const { offered } = useAuditioned.getState();
  if (!offered) {
    say('Nothing to compare yet', {
      about: 'before-after',
      description: `Prepare a step, or press Hear it on a finding: then ${keyNow('before-after')} switches.`,
    });
    return;
  }
  switchTo(offered);
  say(useAuditioned.getState().heard ? 'As it would be' : 'As it is', { about: 'before-after' });
}

/** A place that song position cannot name is said. */
function sayFar({ division }: SongView, { tempo }: Maps, seconds: number): void {
  const { chosen, clock } = usePorts.getState();
  if (chosen === undefined || !clock || division.kind !== 'ppq') return;
  if (secondsToTicks(tempo, seconds) / (division.ticksPerQuarter / 4) > lastSixteenth)
    say('The device at the MIDI port goes on from where it stands', {
      about: 'far',
      description: `Song position names ${lastSixteenth.toLocaleString('en')} sixteenths at most, and this is behind them. Set the device by hand if it plays along.`,
    });
}

/** Plays from where it began the last time, or, where it is silent, goes there. */
function back(song: SongView, play: (seconds: number) => void): void {
  const { song: last, state, began } = usePlaying.getState();
  if (last !== song.id) return;
  if (state === 'playing') play(began);
  else usePlaying.setState({ seconds: began });
}

/** Whether the space bar does something where the focus is: presses, selects, opens. */
const takesSpace = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('button, a, tr, summary, [role]') !== null;

/**
 * Listening by keys, and in the palette. Gives what the button does: plays from the bars of the scope, or from
 * where it was last, and pauses.
 */
export function useListenKeys(song: SongView, maps: Maps): () => void {
  const from = useScope((s) => s.bars?.from);
  const start = (seconds: number): void => {
    sayFar(song, maps, seconds);
    void listen(song, seconds, useHearing.getState().countIn);
  };
  const press = (): void => {
    const { song: last, seconds, state } = usePlaying.getState();
    if (last === song.id && state !== 'silent') return hush();
    if (from !== undefined) return start(ticksToSeconds(maps.tempo, barTick(maps.meters, from)));
    start(last === song.id && seconds < song.timing.seconds ? seconds : 0);
  };
  const acts: Acts = {
    play: press,
    back: () => back(song, start),
    loop: toggleLoop,
    'before-after': switchBeforeAfter,
    lights: () => useLights.getState().toggle(),
    silence: panic,
  };
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    if (e.defaultPrevented || isTyping(e.target)) return;
    const command = commandOf(e, 'song');
    const act = e.key === ' ' ? !takesSpace(e.target) && press : command && acts[command];
    if (!act) return;
    act();
    e.preventDefault();
  });
  useEffect(() => {
    const listener = (e: KeyboardEvent): void => onKey(e);
    addEventListener('keydown', listener);
    return () => removeEventListener('keydown', listener);
  }, []);
  useListenCommands(acts);
  return press;
}

/** The same in the palette. */
function useListenCommands(acts: Acts): void {
  const now = useRef(acts);
  useEffect(() => void (now.current = acts));
  const commands = useMemo(
    () =>
      named.map((key) => ({
        title: keyCommands[key].title,
        key,
        run: () => now.current[key]?.(),
      })),
    [],
  );
  useOffer('listen', commands);
}

type Acts = Partial<Record<KeyCommandId, () => void>>;

const named = ['play', 'back', 'loop', 'before-after', 'lights', 'silence'] as const;
