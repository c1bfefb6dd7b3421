import { RadioGroup } from 'radix-ui';
import { useMemo, useState } from 'react';
import { problemOf } from '../../api/client.ts';
import { useToldChords, useToldKeys } from '../../api/harmony.ts';
import { ProblemNote } from '../../components/problem-note.tsx';
import { Check } from '../../fields/check.tsx';
import { usePreferences } from '../../state/preferences.ts';
import { useScope } from '../../state/scope.ts';
import { usePreparedStep } from '../../state/step.ts';
import { useThisSong } from '../../state/use-song.ts';
import { StepPanel } from '../../step/step-panel.tsx';
import { ChordLedger } from './chord-ledger.tsx';
import { HarmonyMargin } from './harmony-margin.tsx';
import { Voicings } from './voicings.tsx';

const views = { chords: 'Chords', voicings: 'Voicings' } as const;
type View = keyof typeof views;

/** The chords of a song, bar by bar: those that are told from what sounds, and those that were written. */
export function HarmonyScreen() {
  const song = useThisSong();
  const [view, setView] = useState<View>('chords');
  const everywhere = usePreferences((p) => p.chords);
  const showEverywhere = usePreferences((p) => p.setChords);
  const told = useToldChords(song);
  const keys = useToldKeys(song);
  const prepared = usePreparedStep((s) => s.prepared);
  const selected = useScope((s) => s.tracks);
  const tracks = useMemo(
    () => song.tracks.filter((t) => selected.has(t.id)),
    [song.tracks, selected],
  );
  return (
    <main aria-label="Harmony" className="beside grid min-h-0 grid-cols-[minmax(0,1fr)_310px]">
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="flex flex-wrap items-center gap-3 border-b border-line px-4 py-1.5">
          <h1 className="text-[15px] font-semibold">Harmony</h1>
          <Views view={view} setView={setView} />
          <span aria-live="polite" className="text-[12.5px] text-faint">
            {told.isPending ? 'Looking at what sounds …' : ''}
          </span>
          <span className="ml-auto text-[12.5px]">
            <Check checked={everywhere} set={showEverywhere}>
              On the strip, over notes and in the event list too
            </Check>
          </span>
        </div>
        {told.isError ? (
          <ProblemNote problem={problemOf(told.error)} harm />
        ) : view === 'chords' ? (
          <ChordLedger song={song} told={told.data?.chords} keys={keys.data?.keys ?? []} />
        ) : (
          <Voicings song={song} told={told.data?.chords ?? []} keys={keys.data?.keys ?? []} />
        )}
      </div>
      <aside
        aria-label="Margin"
        className="min-h-0 overflow-auto border-l border-line bg-sheet px-4 py-3"
      >
        {prepared ? (
          <StepPanel song={song} prepared={prepared} selected={tracks} />
        ) : (
          <HarmonyMargin song={song} selected={tracks} keys={keys.data?.keys} />
        )}
      </aside>
    </main>
  );
}

const Views = ({ view, setView }: { view: View; setView: (view: View) => void }) => (
  <RadioGroup.Root
    aria-label="What is shown"
    value={view}
    onValueChange={(v) => setView(v as View)}
    className="flex gap-1"
  >
    {Object.entries(views).map(([value, says]) => (
      <RadioGroup.Item
        key={value}
        value={value}
        className="rounded-full border border-line px-2.5 py-0.5 text-[12.5px] text-faint aria-checked:border-amber aria-checked:bg-amber-soft aria-checked:text-ink"
      >
        {says}
      </RadioGroup.Item>
    ))}
  </RadioGroup.Root>
);
