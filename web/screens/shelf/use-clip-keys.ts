import { useQueryClient } from '@tanstack/react-query';
import type { KeyboardEvent } from 'react';
import type { KeyCommandId } from '#contracts/key-commands.ts';
import type { ClipView } from '#contracts/shelf.ts';
import type { SongView } from '#contracts/songs.ts';
import { secondsToTicks, tempoAt } from '#core/timing/tempo-map.ts';
import { mapsOf } from '#core/song/maps.ts';
import { quarterTicks } from '#core/timing/meter-map.ts';
import { contentsQuery } from '../../api/originals.ts';
import { showProblem, useStep } from '../../api/queries.ts';
import { useRemoveClip } from '../../api/shelf.ts';
import { sendFiles } from '../../api/upload.ts';
import { commandOf } from '../../keys/pressed.ts';
import { isTyping } from '../../components/is-typing.ts';
import { clipStep } from '../../intake/clip-step.ts';
import { fetchClips, hearClip, hushClip } from '../../sound/clips.ts';
import { usePlaying } from '../../state/playing.ts';
import { pressedBar } from '../../state/pressed.ts';
import { useScope } from '../../state/scope.ts';
import { useClipHeard, useShelf } from '../../state/shelf.ts';
import { isHere } from './look-through.ts';
import { say } from '../../messages/messages.ts';

interface Asked {
  readonly song: SongView | undefined;
  readonly clips: readonly ClipView[];
  readonly focus: number;
  readonly setFocus: (n: number) => void;
  readonly rename: (clip: ClipView) => void;
}

/** Clips that are fetched before they are gone to. */
const ahead = 4;

/**
 * One hand on the keys: arrows go and hear, Space hears again or hushes, Enter puts it into the song; all else
 * as the keys are kept.
 */
export function useClipKeys({ song, clips, focus, setFocus, rename }: Asked) {
  const remove = useRemoveClip();
  const put = usePutIn(song);
  const hear = (clip: ClipView): void => {
    void hearClip(clip, song && bpmHere(song));
    const at = clips.indexOf(clip);
    fetchClips([...clips.slice(at + 1, at + 1 + ahead), ...clips.slice(Math.max(0, at - 1), at)]);
  };
  const go = (to: number): void => {
    const n = Math.min(clips.length - 1, Math.max(0, to));
    setFocus(n);
    if (clips[n]) hear(clips[n]);
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    const clip = clips[focus];
    if (!clip || isTyping(e.target)) return;
    const commands: Partial<Record<KeyCommandId, () => void>> = {
      'shelf-turn': () => turn(clip, () => hear(clip)),
      'shelf-rename': () => !isHere(clip) && rename(clip),
      'shelf-remove': () => {
        hushClip();
        if (!isHere(clip)) remove.mutate(clip);
      },
    };
    const moves: Readonly<Record<string, () => void>> = {
      ArrowDown: () => go(focus + 1),
      ArrowUp: () => go(focus - 1),
      PageDown: () => go(focus + 12),
      PageUp: () => go(focus - 12),
      Home: () => go(0),
      End: () => go(clips.length - 1),
      ' ': () => (useClipHeard.getState().clip === clip.id ? hushClip() : hear(clip)),
      Escape: hushClip,
      Enter: () => put(clip),
    };
    const command = commandOf(e, 'shelf');
    const plain = !e.ctrlKey && !e.metaKey && !e.altKey;
    const act = (command && commands[command]) ?? (plain ? moves[e.key] : undefined);
    if (!act) return;
    e.preventDefault();
    e.stopPropagation();
    act();
  };
  return { onKeyDown, hear, put };
}

/** Hears a clip round and round, or once, where its kind says otherwise. */
function turn({ id }: ClipView, hear: () => void): void {
  const turned = new Set(useShelf.getState().turned);
  if (!turned.delete(id)) turned.add(id);
  useShelf.setState({ turned });
  if (useClipHeard.getState().clip === id) hear();
}

/** Quarter notes a minute of a song where it plays, or would. */
function bpmHere(song: SongView): number {
  const { tempo } = mapsOf(song);
  const { song: heard, seconds } = usePlaying.getState();
  const tick = heard === song.id ? secondsToTicks(tempo, seconds) : 0;
  return 60 / (tempoAt(tempo, tick) / tempo.scale) / quarterTicks(song.division);
}

/**
 * Puts a copy of a clip into the song, at the bar that is pressed, onto the only track that is selected or
 * as tracks of its own.
 */
function usePutIn(song: SongView | undefined): (clip: ClipView, at?: number) => void {
  const client = useQueryClient();
  const step = useStep(song?.id ?? '', song?.revision ?? 0);
  return (clip, at) => {
    if (!song)
      return say('No song is open', {
        about: 'put-in',
        description: 'Open a song, and go to the shelf from there.',
      });
    if (step.isPending) return;
    // What is used of a folder that is looked through is kept.
    void (
      isHere(clip)
        ? sendFiles('addOriginals', [clip.file]).then(({ originals }) => originals[0]!)
        : client.fetchQuery(contentsQuery(clip.sha256))
    )
      .then((original) => {
        const { tracks } = useScope.getState();
        const asked = clipStep(song, original, clip, {
          bar: at ?? pressedBar(song) ?? 1,
          onto: tracks.size === 1 ? [...tracks][0] : undefined,
        });
        if (asked) step.mutate(asked);
        else say(`“${clip.name}” holds nothing to put in`);
      })
      .catch(showProblem);
  };
}
