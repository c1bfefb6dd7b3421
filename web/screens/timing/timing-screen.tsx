import type { SongView } from '#contracts/songs.ts';
import { useOperations } from '../../api/queries.ts';
import { usePreparedStep, type Prepared } from '../../state/step.ts';
import { StepPanel } from '../sheet/step-panel.tsx';
import { useThisSong } from '../song/use-song.ts';
import { ClickForm } from './click-form.tsx';
import { Converter } from './converter.tsx';
import { ListButtons } from './list-buttons.tsx';
import { MapPlane } from './map-plane.tsx';
import { MapTable } from './map-table.tsx';
import { ResolutionTable } from './resolution-table.tsx';
import { TapTempo } from './tap-tempo.tsx';

/** Tempos, meters, keys and markers in the order of the bars, what can be done to them, and a converter of places. */
export function TimingScreen() {
  const song = useThisSong();
  const prepared = usePreparedStep((s) => s.prepared);
  return (
    <main aria-label="Timing" className="grid min-h-0 grid-cols-[minmax(0,1fr)_300px]">
      <div className="flex min-h-0 flex-col">
        <MapTable song={song}>
          <MapPlane song={song} />
        </MapTable>
        <Converter song={song} />
      </div>
      <aside aria-label="Margin" className="min-h-0 overflow-auto border-l border-line bg-sheet px-4 py-3">
        {prepared ? (
          <StepPanel song={song} prepared={prepared} selected={noTracks}>
            <Help song={song} prepared={prepared} />
          </StepPanel>
        ) : (
          <TimingMenu song={song} />
        )}
      </aside>
    </main>
  );
}

const noTracks: SongView['tracks'] = [];

/** What helps to settle a step's settings. */
function Help({ song, prepared }: { song: SongView; prepared: Prepared }) {
  const { prepare } = usePreparedStep();
  const set = (settings: Record<string, unknown>): void => prepare({ ...prepared, settings: { ...prepared.settings, ...settings } });
  if (prepared.operation === 'timing.resolution') return <ResolutionTable song={song} chosen={prepared.settings.ppq} choose={(ppq) => set({ ppq })} />;
  if (prepared.operation === 'timing.tempo') return <TapTempo set={(bpm) => set({ bpm })} />;
  return null;
}

/** What can be done to the map. */
function TimingMenu({ song }: { song: SongView }) {
  const operations = useOperations().data?.filter((o) => o.group === 'timing' && !o.byHand) ?? [];
  const { prepare } = usePreparedStep();
  const ppq = song.division.kind === 'ppq' ? song.division.ticksPerQuarter : 480;
  // What is known of the song is filled in.
  const settings: Record<string, Record<string, unknown>> = {
    'timing.length': { bars: song.timing.bars },
    'timing.fit': { lastBar: song.timing.bars, length: Math.round(song.timing.seconds) },
    'timing.timecode': song.timing.timecode ? { address: song.timing.startTimecode, rate: song.timing.timecode.rate } : {},
    'timing.resolution': { ppq: ppq === 960 ? 480 : 960 },
    'timing.ramp': { from: song.timing.tempos[0]?.bpm ?? 120, to: Math.round((song.timing.tempos[0]?.bpm ?? 120) * 0.8), toBar: Math.min(song.timing.bars, 5) },
  };
  return (
    <section aria-label="What to do">
      <ListButtons song={song} />
      <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">What to do</h2>
      <ul className="space-y-2">
        {operations.map((o) => (
          <li key={o.id}>
            <button type="button" className="text-left font-medium underline decoration-line underline-offset-4 hover:decoration-amber" onClick={() => prepare({ operation: o.id, settings: settings[o.id] ?? {}, bars: 'all' })}>
              {o.title} …
            </button>
            <p className="text-[12px] text-faint">{o.summary}</p>
          </li>
        ))}
      </ul>
      <ClickForm song={song} />
    </section>
  );
}
