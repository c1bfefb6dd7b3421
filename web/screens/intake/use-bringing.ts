import { useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { SongView } from '#contracts/songs.ts';
import { usePreview } from '../../api/preview.ts';
import { useStep } from '../../api/queries.ts';
import { alike, proposed, stepOf, type Wanted } from '../../intake/bring-model.ts';
import { laidOut, type Layout, type Ready } from '../../intake/layout.ts';
import { sourcesIn, useHeld } from '../../intake/sources.ts';
import { usePressedBar } from '../../state/pressed.ts';
import { useScope } from '../../state/scope.ts';

/** What the address names, what is wanted of each of it, and the step that would take it. */
export function useBringing(song: SongView) {
  const [query, setQuery] = useSearchParams();
  const sources = useMemo(() => sourcesIn(query), [query]);
  const held = useHeld(sources);
  const scoped = useScope((s) => s.bars?.from);
  const pressed = usePressedBar(song);
  const select = useScope((s) => s.select);
  const [chosen, setChosen] = useState<Readonly<Record<string, Wanted>>>({});
  const [shown, show] = useState(0);
  const [layout, setLayout] = useState<Layout>({ way: 'each', gap: 0 });
  const navigate = useNavigate();
  const step = useStep(song.id, song.revision);
  const ready = sources.flatMap(({ key, name, ...copied }, n): Ready[] => {
    const own = held[n]?.held;
    if (!own) return [];
    // What was copied is put where it was pressed; a file goes to its own bars, or to the scope.
    const from = 'song' in name ? pressed : scoped;
    return [
      {
        key,
        name,
        held: own,
        wanted: chosen[key] ?? proposed(song, own, { from, isFirst: n === 0, ...copied }),
      },
    ];
  });
  const laid = laidOut(song, ready, layout);
  const at = Math.min(shown, sources.length - 1);
  const current = laid.find(({ key }) => key === sources[at]?.key);
  const waiting = held.some((h) => !h.held && !h.error);
  const asked = waiting
    ? undefined
    : stepOf(laid.map(({ name, ...rest }) => ({ source: name, ...rest })));
  const preview = usePreview(song, asked);
  const may =
    asked !== undefined &&
    preview.data?.changed === true &&
    !preview.isError &&
    !preview.isPlaceholderData &&
    !step.isPending;
  return {
    sources,
    /** The one that is shown. */
    at,
    show,
    source: sources[at],
    shown: held[at],
    current,
    layout,
    setLayout,
    asked,
    preview,
    may,
    want: (wanted: Wanted): void => {
      if (current) setChosen({ ...chosen, [current.key]: wanted });
    },
    /** What is wanted of the one that is shown is wanted of all. */
    wantOfAll: (): void => {
      if (current)
        setChosen(
          Object.fromEntries(
            ready.map((one) => [one.key, alike(one.wanted, current.wanted, one.held)]),
          ),
        );
    },
    take: (): void => {
      if (!may) return;
      step.mutate(asked, {
        onSuccess: ({ report }) => {
          const touched = report.changes.flatMap((c) => c.track ?? []);
          // What came in is selected, to be looked over or sent on.
          if (touched.length > 0) select(touched, touched[0]);
          void navigate(`/songs/${song.id}`, { state: { focus: touched[0] } });
        },
      });
    },
    leave: (): void => setQuery(new URLSearchParams(), { replace: true }),
  };
}
