import { useMemo, useState } from 'react';
import type { FindingView } from '#contracts/findings.ts';
import type { SongView } from '#contracts/songs.ts';
import { problemOf } from '../../../api/client.ts';
import { useFindings } from '../../../api/queries.ts';
import { ProblemNote } from '../../../components/problem-note.tsx';
import { count } from '../../../components/text.ts';
import { useFocusArrived } from './arrived-finding.ts';
import { byRule } from './finding-rows.ts';
import { FindingTable } from './finding-table.tsx';

interface Props {
  readonly song: SongView;
  /** Those about these tracks, or about all others; without it all. */
  readonly tracks?: { readonly ids: ReadonlySet<string>; readonly others?: true };
}

/** What the look-over noticed, each with the steps that would settle it. */
export function FindingsList({ song, tracks }: Props) {
  const { data, error } = useFindings(song.id, song.revision);
  const [showLeft, setShowLeft] = useState(false);
  useFocusArrived(data !== undefined);
  const its = useMemo(() => {
    const about = (f: FindingView): boolean => f.tracks.some((id) => tracks?.ids.has(id));
    const all = data?.findings ?? [];
    return tracks ? all.filter((f) => about(f) !== (tracks.others ?? false)) : all;
  }, [data, tracks]);
  const open = useMemo(() => byRule(its.filter((f) => !f.leftAlone)), [its]);
  const left = useMemo(() => its.filter((f) => f.leftAlone).map((f) => [f]), [its]);
  if (error) return <ProblemNote problem={problemOf(error)} harm />;
  if (!data) return <p className="mb-4 text-faint">Looking the song over …</p>;
  // That nothing is wrong is said of the song; of a part, and of the rest of the song, only what is.
  if (tracks && its.length === 0) return null;
  const called = tracks?.others ? 'Findings elsewhere' : 'Findings';
  return (
    <section aria-label={called} className="mb-5">
      <h2 tabIndex={-1} className="seam mb-2 pb-1 text-[14px] font-semibold">
        {open.length === 0 ? 'Nothing to settle' : count(its.length - left.length, 'finding')}
        {tracks && (tracks.others ? ' elsewhere' : ' here')}
      </h2>
      {open.length === 0 && !tracks && (
        <p className="text-moss">The look-over found nothing that is open.</p>
      )}
      <FindingTable song={song} lines={open} />
      {left.length > 0 && (
        <button
          type="button"
          className="mt-2 text-[12px] text-faint underline decoration-line underline-offset-4"
          aria-expanded={showLeft}
          onClick={() => setShowLeft(!showLeft)}
        >
          {count(left.length, 'finding')} left alone
        </button>
      )}
      {showLeft && (
        <div className="mt-2">
          <FindingTable song={song} lines={left} />
        </div>
      )}
    </section>
  );
}
