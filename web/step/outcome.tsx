import { memo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { problemOf } from '../api/client.ts';
import type { usePreview } from '../api/preview.ts';
import { wayOut } from '../api/ways-out.ts';
import { Button } from '../components/button.tsx';
import { count, counts } from '../components/text.ts';
import type { Bars } from '../state/scope.ts';
import { useShowTempos } from '../state/shown-tempos.ts';
import { BeforeAfter } from './before-after.tsx';

/** What is left as it is, and why: said whole where it is one thing. */
function leftText(skipped: readonly { name?: string | undefined; why: string }[]): string {
  const unnamed = skipped.filter((s) => s.name === undefined);
  if (unnamed.length > 0) return unnamed.map((s) => s.why).join(' ');
  return skipped.length === 1
    ? `${skipped[0]!.name} stays: ${skipped[0]!.why}`
    : `${count(skipped.length, 'track')} stay as they are.`;
}

/** Whether what is shown stays so. */
const isAsItWas = (_: object, next: { readonly taken: boolean }): boolean => next.taken;

/** In one line what would come of it, or why nothing would. */
function outcomeLine(preview: ReturnType<typeof usePreview>): string {
  if (!preview.data) return 'Working it out …';
  const { report, changed } = preview.data;
  if (!changed) return `It would change nothing. ${report.skipped[0]?.why ?? ''}`.trim();
  const total: Record<string, number> = {};
  for (const change of report.changes)
    for (const [kind, n] of Object.entries(change.counts)) total[kind] = (total[kind] ?? 0) + n;
  const what = counts(total) || count(report.changes.length, 'track');
  const where = report.changes.length > 1 ? ` in ${report.changes.length} tracks` : '';
  const would = report.changes.every((c) => c.did === 'added') ? 'add' : 'touch';
  return `It would ${would} ${what}${where}.`;
}

/**
 * What would come of it: counts, before and after; or why nothing would. Its line is told as it changes. While
 * the step is taken it stays as it is: that a second one would change nothing is nobody's question.
 */
export const Outcome = memo(function Outcome({
  preview,
  song,
  bars,
}: {
  preview: ReturnType<typeof usePreview>;
  song: SongView;
  bars: Bars | undefined;
  taken: boolean;
}) {
  useShowTempos(preview.isError ? undefined : preview.data?.tempos);
  const problem = preview.isError ? problemOf(preview.error) : undefined;
  const way = problem && wayOut(problem, () => void preview.refetch());
  const done = !problem && preview.data?.changed ? preview.data : undefined;
  return (
    <div className={done ? 'mt-3 border-t border-line pt-2' : 'mt-3'}>
      <div aria-live="polite">
        {problem ? (
          <p role="alert" className="border-l-3 border-rust pl-2">
            {problem.message}: expected {problem.expected}; found {problem.found}. {problem.remedy}
            {way && (
              <Button className="mt-1 block" onClick={way.onClick}>
                {way.label}
              </Button>
            )}
          </p>
        ) : (
          <p className={done ? '' : 'text-faint'}>{outcomeLine(preview)}</p>
        )}
      </div>
      {done && <OutcomeDetails {...done} song={song} bars={bars} />}
    </div>
  );
}, isAsItWas);

function OutcomeDetails({
  report,
  after,
  pictures,
  song,
  bars,
}: NonNullable<ReturnType<typeof usePreview>['data']> & {
  song: SongView;
  bars: Bars | undefined;
}) {
  return (
    <>
      {[...new Set(report.changes.map((c) => c.detail).filter((d) => d !== undefined))]
        .slice(0, 4)
        .map((detail) => (
          <p key={detail} className="text-[12px]">
            {detail.charAt(0).toUpperCase() + detail.slice(1)}
            {/[.!]$/.test(detail) ? '' : '.'}
          </p>
        ))}
      {report.told?.map((say) => (
        <p key={say} className="text-[12px] text-ochre">
          {say}
        </p>
      ))}
      {report.skipped.length > 0 && (
        <p className="text-[12px] text-faint">{leftText(report.skipped)}</p>
      )}
      {bars && (
        <p className="text-[12px] text-faint">
          Only in bars {bars.from} to {bars.to}.
        </p>
      )}
      {after && <BeforeAfter before={song.tracks} after={after} pictures={pictures} />}
    </>
  );
}
