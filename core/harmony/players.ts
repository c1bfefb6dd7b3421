/** Who plays notes of chords: keys from the lowest to the highest, and octaves by which all of it is moved before. */
export interface Player {
  readonly lowest: number;
  readonly highest: number;
  readonly octaves: number;
}

/** How notes are shared out: by voice from the top or from the bottom, or each to who has the shortest way to it. */
export type SharedBy = 'from the top' | 'from the bottom' | 'shortest ways';

/**
 * Who plays which of some notes that begin together: for each key, from the lowest up, a player's index, or
 * −1 where nobody can. Players are in order from the highest, and keep to it: none plays above the one
 * before. As many notes are played as can be; among the ways to do so the least costly is taken.
 *
 * @param keys ascending.
 * @param last what each player played before, as it sounded; undefined at the beginning.
 * @param free whether a player has nothing else to sound.
 */
export function shareOut(
  keys: readonly number[],
  players: readonly Player[],
  by: SharedBy,
  last: readonly (number | undefined)[],
  free: readonly boolean[],
): number[] {
  // From the top: the highest note first, as the players are.
  const order = [...keys].reverse();
  const [notes, who] = [order.length, players.length];
  const costOf = (note: number, player: number): number => {
    const { lowest, highest, octaves } = players[player]!;
    const sounds = order[note]! + octaves * 12;
    if (!free[player] || sounds < lowest || sounds > highest) return Infinity;
    if (by === 'from the top') return Math.abs(player - note);
    if (by === 'from the bottom') return Math.abs(who - 1 - player - (notes - 1 - note));
    const before = last[player];
    return before === undefined
      ? Math.abs(player - note) + Math.abs((lowest + highest) / 2 - sounds) / 24
      : Math.abs(sounds - before);
  };
  // best[i][j]: the least cost of the first i notes among the first j players; a note that nobody plays is dear.
  const unplayed = 10_000;
  const best = Array.from({ length: notes + 1 }, () => new Float64Array(who + 1));
  for (let i = 1; i <= notes; i++) best[i]!.fill(i * unplayed, 0, 1);
  for (let i = 1; i <= notes; i++)
    for (let j = 1; j <= who; j++)
      best[i]![j] = Math.min(
        best[i - 1]![j - 1]! + costOf(i - 1, j - 1),
        best[i]![j - 1]!,
        best[i - 1]![j]! + unplayed,
      );
  const given = new Array<number>(notes).fill(-1);
  for (let i = notes, j = who; i > 0 && j > 0;) {
    const now = best[i]![j]!;
    const cost = costOf(i - 1, j - 1);
    if (cost < Infinity && Math.abs(now - best[i - 1]![j - 1]! - cost) < 1e-6) {
      given[--i] = --j;
    } else if (now === best[i]![j - 1]) j--;
    else i--;
  }
  return given.reverse();
}
