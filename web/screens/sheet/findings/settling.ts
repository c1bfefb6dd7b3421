import type { FindingView } from '#contracts/findings.ts';
import type { SongView } from '#contracts/songs.ts';
import type { StepAsked } from '../../../api/queries.ts';

export type Settling = FindingView['settle'][number];

/** A step that would settle something, as it is asked for. */
export const askedOf = ({ operation, settings, scope }: Settling): StepAsked => ({
  operation,
  settings: { ...settings },
  scope: {
    tracks: scope.tracks === 'all' ? 'all' : [...scope.tracks],
    ...(scope.bars ? { bars: scope.bars } : {}),
  },
});

/** The steps of several findings; those that are alike but for their tracks become one on all of them. */
export function together(group: readonly FindingView[]): Settling[] {
  const steps = new Map<string, Settling>();
  for (const s of group.flatMap((f) => f.settle)) {
    const key = JSON.stringify([s.title, s.operation, s.settings, s.scope.bars]);
    const had = steps.get(key);
    const [before, own] = [had?.scope.tracks ?? [], s.scope.tracks];
    steps.set(
      key,
      before === 'all' || own === 'all'
        ? s
        : { ...s, scope: { ...s.scope, tracks: [...before, ...own] } },
    );
  }
  const all = [...steps.values()].map(numbered);
  // What serves most comes first.
  const many = ({ scope: { tracks } }: Settling): number =>
    tracks === 'all' ? Infinity : tracks.length;
  return all.sort((a, b) => many(b) - many(a));
}

/** Several tracks that get one name are told apart by a number behind it. */
function numbered(step: Settling): Settling {
  const { operation, settings, scope } = step;
  if (operation !== 'tracks.rename' || scope.tracks === 'all' || scope.tracks.length < 2)
    return step;
  const name = String(settings.name);
  return { ...step, title: `Name them “${name} 1, 2 …”`, settings: { name: `${name} {n}` } };
}

/** The parts that a step is for, as the sheet has them. */
export function namesOf(song: SongView, { scope: { tracks } }: Settling): string {
  const wanted = song.tracks.flatMap((t, i) =>
    tracks !== 'all' && tracks.includes(t.id) ? [t.name || `track ${i + 1}`] : [],
  );
  return wanted.length > 2
    ? `${wanted.slice(0, 2).join(', ')} and ${wanted.length - 2} more`
    : wanted.join(', ');
}
