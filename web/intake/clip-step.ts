import type { ClipView } from '#contracts/shelf.ts';
import type { OriginalView, SongView } from '#contracts/songs.ts';
import type { StepAsked } from '../api/queries.ts';
import { proposed, stepOf } from './bring-model.ts';

/** A clip put into a song from a bar on: its bars and no more, and nothing of its map. */
export function clipStep(
  song: SongView,
  { sha256, parts }: OriginalView,
  { part, bars, name }: ClipView,
  { bar, onto }: { readonly bar: number; readonly onto: string | undefined },
): StepAsked | undefined {
  const held = parts.find((p) => p.part === part);
  if (!held) return undefined;
  const plain = proposed(song, held, { from: bar });
  const wanted = {
    ...plain,
    at: { bar },
    // What rings on behind the last bar comes along whole.
    bars: held.timing.bars > bars ? { from: 1, to: bars } : null,
    onto: onto === undefined ? {} : Object.fromEntries(plain.tracks.map((id) => [id, onto])),
  };
  return stepOf([{ source: { original: sha256, part, called: name.slice(0, 200) }, wanted, held }]);
}
