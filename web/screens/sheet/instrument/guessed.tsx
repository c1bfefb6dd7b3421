import { Command } from 'cmdk';
import type { SongView } from '#contracts/songs.ts';
import { useGuesses } from '../../../api/guesses.ts';
import { candidateOf, type Candidate } from '../../../tracks/candidates.ts';

/** A candidate that is guessed: how sure, and why. */
export interface Guessed {
  readonly candidate: Candidate;
  readonly sure: number;
  readonly why: readonly string[];
}

/** What is less sure than this is not said. */
const leastSure = 0.3;

/**
 * What a part does, and what may play it, the likeliest first; nothing of several parts, or while it is not
 * known yet.
 */
export function useGuessed(
  song: SongView,
  ids: readonly string[],
): { role: string | undefined; guesses: readonly Guessed[] } {
  const { data } = useGuesses(song.id, song.revision);
  const [only, ...others] = ids;
  const of = others.length > 0 ? undefined : data?.tracks.find((t) => t.id === only);
  return {
    role: of?.role ?? undefined,
    guesses: (of?.guesses ?? []).flatMap(({ drums, program, sure, why }): Guessed[] => {
      const candidate = candidateOf(drums ? 'kit 0' : `program ${(program ?? 1) - 1}`);
      return candidate && sure >= leastSure ? [{ candidate, sure, why }] : [];
    }),
  };
}

/** The guesses above everything else, as long as nothing is typed: their numbers take them. */
export function Guesses({
  role,
  guesses,
  take,
}: ReturnType<typeof useGuessed> & { take: (candidate: Candidate) => void }) {
  if (role === undefined) return null;
  if (guesses.length === 0)
    return (
      <p className="px-2 pt-1 text-[12px] text-faint">
        By its notes: {role}. They do not tell an instrument.
      </p>
    );
  return (
    <Command.Group
      className="sticky top-0 z-10 border-b border-line bg-sheet pb-1"
      heading={`What may play it, by its notes (${role}): ${guesses.map((_, n) => n + 1).join(', ')} to take`}
    >
      {guesses.map(({ candidate, sure, why }, n) => (
        <Command.Item
          key={candidate.key}
          value={`guess ${candidate.key}`}
          onSelect={() => take(candidate)}
          className="flex gap-3 rounded px-2 py-0.5 data-[selected=true]:bg-amber-soft"
        >
          <span className="num w-[26px] text-right text-ochre">{n + 1}</span>
          <span className="min-w-0">
            {candidate.name}
            <span className="ml-2 text-[12px] text-faint">{sureWords(sure)}</span>
            {why.length > 0 && (
              <span className="block text-[12px] text-faint">{why.join('; ')}</span>
            )}
          </span>
        </Command.Item>
      ))}
    </Command.Group>
  );
}

/** How sure in words; numbers would promise more than notes can tell. */
export const sureWords = (sure: number): string =>
  sure > 0.85
    ? 'nearly certain'
    : sure > 0.6
      ? 'likely'
      : sure > 0.3
        ? 'possible'
        : 'a faint guess';
