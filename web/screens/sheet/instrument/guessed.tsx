import { Command } from 'cmdk';
import type { SongView } from '#contracts/songs.ts';
import { useGuesses } from '../../../api/guesses.ts';
import { candidateOf, type Candidate } from './candidates.ts';

/** A candidate that is guessed: how sure, and why. */
export interface Guessed {
  readonly candidate: Candidate;
  readonly sure: number;
  readonly why: readonly string[];
}

/** What may play a part, the likeliest first; nothing of several parts, or while it is not known yet. */
export function useGuessed(song: SongView, ids: readonly string[]): readonly Guessed[] {
  const { data } = useGuesses(song.id, song.revision);
  const [only, ...others] = ids;
  if (!data || others.length > 0) return [];
  const guesses = data.tracks.find((t) => t.id === only)?.guesses ?? [];
  return guesses.flatMap(({ drums, program, sure, why }): Guessed[] => {
    const candidate = candidateOf(drums ? 'kit 0' : `program ${(program ?? 1) - 1}`);
    return candidate ? [{ candidate, sure, why }] : [];
  });
}

/** The guesses above everything else, as long as nothing is typed: 1, 2 and 3 take them. */
export function Guesses({
  guesses,
  take,
}: {
  guesses: readonly Guessed[];
  take: (candidate: Candidate) => void;
}) {
  if (guesses.length === 0) return null;
  return (
    <Command.Group heading="What may play it: 1, 2 and 3 take these">
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
const sureWords = (sure: number): string =>
  sure > 0.85
    ? 'nearly certain'
    : sure > 0.6
      ? 'likely'
      : sure > 0.3
        ? 'possible'
        : 'a faint guess';
