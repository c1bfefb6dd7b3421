import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useOperations } from '../../api/queries.ts';
import { useMaps } from '../../api/maps.ts';
import { useScope } from '../../state/scope.ts';
import { usePendingList } from '../../state/pending-list.ts';
import { usePreparedStep, type Prepared } from '../../state/step.ts';
import { StepPanel } from '../../step/step-panel.tsx';
import { useThisSong } from '../../state/use-song.ts';
import { ClickForm } from './click-form.tsx';
import { knownSettings } from './known-settings.ts';
import { ListButtons } from './list-buttons.tsx';
import { ListCard } from './list-card.tsx';
import type { ListFile } from '../../../core/lists/lists.ts';
import { MapPlane } from './map-plane.tsx';
import { MapTable } from './map-table.tsx';
import { ResolutionTable } from './resolution-table.tsx';
import { TapTempo } from './tap-tempo.tsx';

/** Tempos, meters, keys and markers in the order of the bars, and what can be done to them. */
export function TimingScreen() {
  const song = useThisSong();
  const prepared = usePreparedStep((s) => s.prepared);
  const [chosen, choose] = useState<(ListFile & { readonly song: string }) | undefined>(
    usePendingList.getState().list,
  );
  // A file that was chosen for another song is not offered to this one.
  const file = chosen?.song === song.id ? chosen : undefined;
  return (
    <main aria-label="Timing" className="beside grid min-h-0 grid-cols-[minmax(0,1fr)_300px]">
      <div className="flex min-h-0 flex-col">
        <MapTable song={song}>
          <MapPlane song={song} />
        </MapTable>
      </div>
      <aside
        aria-label="Margin"
        className="min-h-0 overflow-auto border-l border-line bg-sheet px-4 py-3"
      >
        {prepared ? (
          <StepPanel song={song} prepared={prepared} selected={undefined}>
            <Help song={song} prepared={prepared} />
          </StepPanel>
        ) : file ? (
          <ListCard
            song={song}
            file={file}
            close={() => {
              choose(undefined);
              usePendingList.getState().wait(undefined);
            }}
          />
        ) : (
          <TimingMenu song={song} choose={(given) => choose({ ...given, song: song.id })} />
        )}
      </aside>
    </main>
  );
}

/** What helps to settle a step's settings. */
function Help({ song, prepared }: { song: SongView; prepared: Prepared }) {
  const { prepare } = usePreparedStep();
  const set = (settings: Record<string, unknown>): void =>
    prepare({ ...prepared, settings: { ...prepared.settings, ...settings } });
  if (prepared.operation === 'timing.resolution')
    return (
      <ResolutionTable song={song} chosen={prepared.settings.ppq} choose={(ppq) => set({ ppq })} />
    );
  if (prepared.operation === 'timing.tempo') return <TapTempo set={(bpm) => set({ bpm })} />;
  return null;
}

/** What can be done to the map, by what it is about; the names of the operations, without their dots. */
const about: Readonly<Record<string, readonly string[]>> = {
  Tempo: ['tempo', 'ramp', 'fit', 'thin-tempo', 'tidy'],
  Bars: ['meter', 'lead-in', 'length'],
  Key: ['key'],
  Marks: ['marker', 'section', 'sections', 'snap'],
  Clock: ['timecode', 'resolution', 'to-quarters'],
  Click: ['click'],
};

function TimingMenu({ song, choose }: { song: SongView; choose: (file: ListFile) => void }) {
  const operations = useOperations().data?.filter((o) => o.group === 'timing' && !o.byHand) ?? [];
  const { prepare } = usePreparedStep();
  const maps = useMaps(song);
  const bars = useScope((s) => s.bars);
  const settings = knownSettings(song, maps, bars);
  const named = new Set(Object.values(about).flat());
  const groups = [
    ...Object.entries(about),
    [
      'More',
      operations.map((o) => o.id.slice('timing.'.length)).filter((name) => !named.has(name)),
    ] as const,
  ];
  const offered = (name: string) =>
    operations.filter(
      (o) =>
        o.id === `timing.${name}` && (name !== 'to-quarters' || song.division.kind === 'smpte'),
    );
  return (
    <>
      <section aria-label="What to do" className="mb-4">
        <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">What to do</h2>
        {groups
          .filter(([, names]) => names.some((name) => offered(name).length > 0))
          .map(([group, names]) => (
            <div key={group} className="mb-1.5 grid grid-cols-[52px_minmax(0,1fr)] gap-2">
              <span className="text-[12px] text-faint">{group}</span>
              <span className="flex flex-col items-start gap-0.5">
                {names.flatMap(offered).map((o) => (
                  <button
                    key={o.id}
                    type="button"
                    title={o.summary}
                    className="text-left underline decoration-line underline-offset-4 hover:decoration-amber"
                    onClick={() =>
                      prepare({ operation: o.id, settings: settings[o.id] ?? {}, bars: 'all' })
                    }
                  >
                    {o.title} …
                  </button>
                ))}
              </span>
            </div>
          ))}
      </section>
      <ListButtons song={song} choose={choose} />
      <ClickForm song={song} />
    </>
  );
}
