import { useState } from 'react';
import type { FindingView } from '#contracts/findings.ts';
import type { SongView } from '#contracts/songs.ts';
import { problemOf } from '../../../api/client.ts';
import { useFindings } from '../../../api/queries.ts';
import { ProblemNote } from '../../../components/problem-note.tsx';
import { count } from '../../../components/text.ts';
import { useFocusArrived } from './arrived-finding.ts';
import { FindingCard, GroupCard } from './finding-cards.tsx';

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
  if (error) return <ProblemNote problem={problemOf(error)} harm />;
  if (!data) return <p className="mb-4 text-faint">Looking the song over …</p>;
  const about = (f: FindingView): boolean => f.tracks.some((id) => tracks?.ids.has(id));
  const its = tracks
    ? data.findings.filter((f) => about(f) !== (tracks.others ?? false))
    : data.findings;
  const open = its.filter((f) => !f.leftAlone);
  const left = its.filter((f) => f.leftAlone);
  // That nothing is wrong is said of the song; of a part, and of the rest of the song, only what is.
  if (tracks && its.length === 0) return null;
  const called = tracks?.others ? 'Findings elsewhere' : 'Findings';
  return (
    <section aria-label={called} className="mb-5">
      <h2 tabIndex={-1} className="seam mb-2 pb-1 text-[14px] font-semibold">
        {open.length === 0 ? 'Nothing to settle' : count(open.length, 'finding')}
        {tracks && (tracks.others ? ' elsewhere' : ' here')}
      </h2>
      {open.length === 0 && !tracks && (
        <p className="text-moss">The look-over found nothing that is open.</p>
      )}
      <ul className="space-y-2">
        {grouped(open).map((group) =>
          group.length === 1 ? (
            <FindingCard key={group[0]!.key} song={song} finding={group[0]!} />
          ) : (
            <GroupCard key={group[0]!.rule} song={song} group={group} />
          ),
        )}
      </ul>
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
        <ul className="mt-2 space-y-2">
          {left.map((finding) => (
            <FindingCard key={finding.key} song={song} finding={finding} />
          ))}
        </ul>
      )}
    </section>
  );
}

/** Findings of one rule together, in the order of the rules. */
function grouped(findings: readonly FindingView[]): FindingView[][] {
  const groups = new Map<string, FindingView[]>();
  for (const f of findings) {
    const group = groups.get(f.rule);
    if (group) group.push(f);
    else groups.set(f.rule, [f]);
  }
  return [...groups.values()];
}
