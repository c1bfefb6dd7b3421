import { create } from 'zustand';
import { composedMoves, type Moves } from '#core/timing/time-map.ts';

/** How time moved in a song since somebody asked: a view that keeps places by itself takes them along by it. */
export const useMoved = create<{ song: string; moves: Moves | undefined }>(() => ({
  song: '',
  moves: undefined,
}));

/** In more pieces nobody follows: what was chosen is looked for where it was. */
const mostPieces = 10_000;

const piecesIn = ({ song, tracks }: Moves): number =>
  Object.values(tracks ?? {}).reduce((sum, own) => sum + own.length, song.length);

export function noteMoves(song: string, moves: Moves | undefined): void {
  const had = useMoved.getState();
  const before = had.song === song ? had.moves : undefined;
  const many = before && moves && piecesIn(before) * piecesIn(moves) > mostPieces ** 2;
  const all = many ? undefined : composedMoves(before, moves);
  useMoved.setState({ song, moves: all && piecesIn(all) <= mostPieces ? all : undefined });
}

/** The moves so far; from here on they are counted anew. */
export function takeMoves(song: string): Moves | undefined {
  const { song: its, moves } = useMoved.getState();
  if (its !== song) return undefined;
  useMoved.setState({ moves: undefined });
  return moves;
}
