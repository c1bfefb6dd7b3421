import type { SongView } from '#contracts/songs.ts';
import { problemOf } from '../../api/client.ts';
import { ProblemNote } from '../../components/problem-note.tsx';
import { bpmText, count, duration } from '../../components/text.ts';
import { givingTracks, whatToKnow, type Held } from '../../intake/bring-model.ts';
import type { HeldSource } from '../../intake/sources.ts';
import { WhoseWork } from '../../intake/whose-work.tsx';

/** The files that are to be taken from, each by its name; those of one name are counted. */
export function Sources({
  names,
  at,
  show,
}: {
  names: readonly string[];
  at: number;
  show: (n: number) => void;
}) {
  return (
    <nav aria-label="Files" className="mb-3 flex flex-wrap gap-1">
      {names.map((_, n) => (
        <button
          key={n}
          type="button"
          aria-current={n === at ? 'true' : undefined}
          className="max-w-[200px] truncate rounded border border-line px-2 py-0.5 text-[12.5px] aria-[current=true]:border-amber aria-[current=true]:bg-amber-soft"
          onClick={() => show(n)}
        >
          {told(names, n)}
        </button>
      ))}
    </nav>
  );
}

const told = (names: readonly string[], n: number): string => {
  const alike = names.filter((name) => name === names[n]);
  const before = names.slice(0, n).filter((name) => name === names[n]).length;
  return alike.length > 1 ? `${names[n]} (${before + 1})` : names[n]!;
};

interface Props extends HeldSource {
  readonly called: string;
  readonly song: SongView;
  /** Of the file; nothing where it is another song. */
  readonly sha256?: string | undefined;
}

/** A source at a glance: what it holds, its faults, and what will not translate well. */
export function WhatItHolds({ called, song, sha256, held, problems, error, said }: Props) {
  const words = [...(said ? [said] : []), ...(held ? whatToKnow(song, held) : [])];
  return (
    <>
      <h2 className="text-[19px] font-semibold break-words">{called}</h2>
      {error !== undefined && <ProblemNote problem={problemOf(error)} harm />}
      {!held && error === undefined && <p className="text-faint">Reading it …</p>}
      {held && <p className="text-faint">{holds(held)}</p>}
      {held && <WhoseWork sha256={sha256} timing={held.timing} />}
      {problems.length > 0 && <Mended problems={problems} />}
      {words.length > 0 && (
        <ul aria-label="What to know" className="mt-2 text-[12.5px] text-ochre">
          {words.map((say) => (
            <li key={say}>{say}</li>
          ))}
        </ul>
      )}
    </>
  );
}

const Mended = ({ problems }: Pick<HeldSource, 'problems'>) => (
  <details className="mt-1">
    <summary className="text-ochre">{count(problems.length, 'fault')} mended</summary>
    <ul className="mt-1 space-y-1.5 text-[12.5px]">
      {problems.slice(0, 20).map((problem, n) => (
        <li key={n}>
          <ProblemNote problem={problem} />
        </li>
      ))}
    </ul>
  </details>
);

function holds(held: Held): string {
  const { timing } = held;
  const bpms = timing.tempos.map((t) => t.bpm);
  return [
    count(givingTracks(held).length, 'track'),
    count(held.notes, 'note'),
    `${count(timing.bars, 'bar')} in ${duration(timing.seconds)}`,
    bpms.length === 0
      ? 'no tempo stated'
      : bpms.length === 1
        ? `${bpmText(bpms[0]!)} BPM`
        : `${count(timing.tempoCount, 'tempo')}`,
    timing.meters
      .slice(0, 3)
      .map((m) => `${m.numerator}/${m.denominator}`)
      .join(', ') || '4/4',
    held.divisionText,
    timing.startTimecode && `timecode ${timing.startTimecode}`,
  ]
    .filter(Boolean)
    .join(' · ');
}
