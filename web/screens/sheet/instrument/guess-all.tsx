import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { GuessView } from '#contracts/guesses.ts';
import { problemOf } from '../../../api/client.ts';
import { useGuesses } from '../../../api/guesses.ts';
import { useStep } from '../../../api/queries.ts';
import { Button } from '../../../components/button.tsx';
import { ProblemNote } from '../../../components/problem-note.tsx';
import { count } from '../../../components/text.ts';
import { Check, CheckBox } from '../../../fields/check.tsx';
import { Slider } from '../../../fields/slider.tsx';
import { instrumentText } from '../../../tracks/glyph.tsx';
import { sureWords } from './guessed.tsx';

/** More rows are not listed; they are given all the same. */
const mostListed = 500;

interface Row {
  readonly track: TrackView;
  readonly place: number;
  readonly guess: GuessView;
}

/** What would play all parts, each with its best guess: those surer than is asked, but for what plays that already. */
export function GuessAll({ song, close }: { song: SongView; close: () => void }) {
  const { data, error } = useGuesses(song.id, song.revision);
  const [surer, setSurer] = useState(60);
  const [other, setOther] = useState<ReadonlySet<string>>(new Set());
  const [settle, setSettle] = useState(false);
  const step = useStep(song.id, song.revision);
  const rows = rowsOf(song, data?.tracks ?? []);
  const isTaken = ({ track, guess }: Row): boolean =>
    guess.sure * 100 >= surer !== other.has(track.id);
  const taken = rows.filter(isTaken);
  const take = (): void =>
    step.mutate(
      {
        operation: 'tracks.instrument',
        settings: { each: taken.map(given), named: true, settle },
        scope: { tracks: 'all' },
      },
      { onSuccess: close },
    );
  const turn = (id: string): void => {
    const next = new Set(other);
    if (!next.delete(id)) next.add(id);
    setOther(next);
  };
  return (
    <>
      <Dialog.Title className="seam mb-2 pb-1 text-[15px] font-semibold">
        What may play the parts
      </Dialog.Title>
      <div className="mb-2 flex items-center gap-3">
        <span className="shrink-0">Surer than {surer} %</span>
        <div className="w-[200px]">
          <Slider label="Surer than" value={surer} least={10} most={95} step={5} set={setSurer} />
        </div>
        <Check checked={settle} set={setSettle}>
          park what was written for the sound before
        </Check>
      </div>
      {error ? (
        <ProblemNote problem={problemOf(error)} harm />
      ) : !data ? (
        <p className="text-faint">Thinking it over …</p>
      ) : rows.length === 0 ? (
        <p className="text-faint">Every part plays what is guessed already.</p>
      ) : (
        <Rows rows={rows} isTaken={isTaken} turn={turn} />
      )}
      <div className="mt-3 flex gap-2 border-t border-line pt-2">
        <Button kind="next" disabled={taken.length === 0 || step.isPending} onClick={take}>
          Give {count(taken.length, 'part')} what is ticked
        </Button>
        <Button onClick={close}>As it was</Button>
      </div>
    </>
  );
}

const Rows = ({
  rows,
  isTaken,
  turn,
}: {
  rows: readonly Row[];
  isTaken: (row: Row) => boolean;
  turn: (id: string) => void;
}) => (
  <div className="min-h-0 overflow-auto">
    <table className="w-full text-[13px]">
      <caption className="sr-only">Guesses</caption>
      <thead className="text-left text-[11.5px] text-faint">
        <tr className="border-b border-line">
          <th className="w-[26px] font-normal">
            <span className="sr-only">Taken</span>
          </th>
          <th className="py-1 font-normal">Part</th>
          <th className="font-normal">Now</th>
          <th className="font-normal">Would play</th>
          <th className="font-normal">Why</th>
        </tr>
      </thead>
      <tbody>
        {rows.slice(0, mostListed).map((row) => {
          const { track, place, guess } = row;
          const called = track.name || `track ${place}`;
          return (
            <tr key={track.id} className="border-b border-line align-top">
              <td className="py-1">
                <CheckBox
                  label={`Give ${called} ${guess.name}`}
                  checked={isTaken(row)}
                  set={() => turn(track.id)}
                />
              </td>
              <td className="py-1 pr-3">{called}</td>
              <td className="py-1 pr-3 text-faint">{instrumentText(track, false)}</td>
              <td className="py-1 pr-3">
                {guess.name} <span className="text-[12px] text-faint">{sureWords(guess.sure)}</span>
              </td>
              <td className="py-1 text-[12px] text-faint">{guess.why.join('; ')}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
    {rows.length > mostListed && (
      <p className="pt-1 text-faint">
        and {(rows.length - mostListed).toLocaleString('en')} more, ticked by how sure they are
      </p>
    )}
  </div>
);

/** The parts whose best guess is not what plays them. */
function rowsOf(
  song: SongView,
  guessed: readonly { readonly id: string; readonly guesses: readonly GuessView[] }[],
): Row[] {
  const best = new Map(guessed.map(({ id, guesses }) => [id, guesses[0]]));
  return song.tracks.flatMap((track, n): Row[] => {
    const guess = best.get(track.id);
    return guess && !plays(track, guess) ? [{ track, place: n + 1, guess }] : [];
  });
}

/** Whether a part has its name, and plays what is guessed. */
const plays = ({ name, channel, programs }: TrackView, { drums, program }: GuessView): boolean =>
  name !== '' &&
  (drums
    ? channel === 10
    : channel !== 10 && programs.length === 1 && programs[0]!.program === program);

/** The setting that gives a track what is guessed of it. */
const given = ({ track, guess: { drums, program } }: Row) => ({
  track: track.id,
  drums,
  program: program ?? 1,
});
