import type { Ran } from '../../api/recipes.ts';
import { count, counts } from '../../components/text.ts';

/** Whether it did, or would do, something. */
export const touched = ({ result, problem, undone }: Ran): boolean =>
  !problem && !undone && result?.changed === true;

/** What became of all songs, in one line: "Ran on 3 songs: 2 changed, nothing to do for 1." */
export function sumLine(runs: readonly Ran[]): string {
  const preview = runs.some((r) => r.preview);
  const changed = runs.filter(touched).length;
  const refused = runs.filter((r) => r.problem).length;
  const undone = runs.filter((r) => r.undone).length;
  const idle = runs.length - changed - refused - undone;
  const parts = [
    changed > 0 && (preview ? `would change ${changed}` : `${changed} changed`),
    undone > 0 && `${undone} undone again`,
    idle > 0 && `nothing to do for ${idle}`,
    refused > 0 && `refused for ${refused}`,
  ].filter((part) => part !== false);
  return `${preview ? 'Seen' : 'Ran'} on ${count(runs.length, 'song')}: ${parts.join(', ')}.`;
}

/** What became of one song. */
export function ranLine({ result, preview, undone }: Ran): string {
  if (undone) return 'Undone: it is as it was before.';
  const { changes, skipped } = result!.report;
  const whys = skipped.map((s) => s.why).join(' ');
  if (!result!.changed) return `Nothing to do. ${whys}`.trim();
  const total: Record<string, number> = {};
  for (const change of changes)
    for (const [kind, n] of Object.entries(change.counts)) total[kind] = (total[kind] ?? 0) + n;
  const where = count(new Set(changes.map((c) => c.track)).size, 'track');
  return `${preview ? 'Would touch' : 'Touched'} ${counts(total)} in ${where}. ${whys}`.trim();
}
