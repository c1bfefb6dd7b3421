import { ArrowDown, ArrowUp, Pencil, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { useState } from 'react';
import { keySignatureText } from '#core/song/key-names.ts';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { keyName } from '#core/units/units.ts';
import { usePreview } from '../../api/preview.ts';
import { Button } from '../../components/button.tsx';
import { NameField } from '../../components/name-field.tsx';
import { bpmText, count, counts, duration } from '../../components/text.ts';
import { isFlat } from '../../drawing/glyphs.ts';
import { usePreferences } from '../../state/preferences.ts';
import { usePreparedStep } from '../../state/step.ts';
import { FindingsList } from './findings-list.tsx';
import { StepMenu } from '../../step/step-menu.tsx';
import { StepPanel } from '../../step/step-panel.tsx';
import type { TrackActions } from './use-track-actions.ts';
import { Choice, asSaid } from '../../fields/choice.tsx';

/** What is selected, in numbers, and what can be done with it. */
export function Margin({ song, selected, actions }: { song: SongView; selected: readonly TrackView[]; actions: TrackActions }) {
  const prepared = usePreparedStep((s) => s.prepared);
  return (
    <aside aria-label="Margin" className="min-h-0 overflow-auto border-l border-line bg-sheet px-4 py-3">
      {prepared ? (
        <StepPanel song={song} prepared={prepared} selected={selected} />
      ) : (
        <>
          {selected.length === 0 && <FindingsList song={song} />}
          {selected.length === 0 && <SongFacts song={song} />}
          {selected.length === 1 && <TrackFacts track={selected[0]!} song={song} />}
          {selected.length > 1 && <ManyFacts tracks={selected} />}
          {selected.length > 0 && <Actions song={song} selected={selected} actions={actions} />}
          <StepMenu all={selected.length === 0} />
        </>
      )}
    </aside>
  );
}

function Facts({ title, children }: { title: string; children: ReactNode }) {
  return (
    <>
      <h2 className="seam mb-2 pb-1 text-[14px] font-semibold break-words">{title}</h2>
      <dl className="space-y-1.5">{children}</dl>
    </>
  );
}

function Fact({ name, children, look = false }: { name: string; children: ReactNode; look?: boolean }) {
  return (
    <div className="grid grid-cols-[74px_minmax(0,1fr)] gap-2">
      <dt className="text-[12px] text-faint">{name}</dt>
      <dd className={`break-words ${look ? 'text-ochre' : ''}`}>{children}</dd>
    </div>
  );
}

function SongFacts({ song }: { song: SongView }) {
  const { timing } = song;
  const { middleC, setMiddleC } = usePreferences();
  const bpms = timing.tempos.map((t) => t.bpm);
  const tempo = bpms.length === 0 ? '120 (none stated)' : bpms.length === 1 ? bpmText(bpms[0]!) : `${bpmText(Math.min(...bpms))} to ${bpmText(Math.max(...bpms))}, ${count(timing.tempoCount, 'event')}`;
  const meters = [...new Set(timing.meters.map((m) => `${m.numerator}/${m.denominator}`))].join(', ');
  return (
    <>
      <Facts title={song.title}>
        <Fact name="Length">
          {count(timing.bars, 'bar')}, {duration(timing.seconds)}
        </Fact>
        <Fact name="Tempo" look={timing.tempoCount > 200}>
          {tempo}
        </Fact>
        <Fact name="Meter">{meters}</Fact>
        {timing.keys[0] && <Fact name="Key">{keySignatureText(timing.keys[0].sharps, timing.keys[0].minor)}</Fact>}
        {timing.startTimecode && (
          <Fact name="Timecode">
            <span className="num">{timing.startTimecode}</span> at {timing.frameRate} fps
          </Fact>
        )}
        <Fact name="Markers">{timing.markers.length === 0 ? 'none' : timing.markers.length}</Fact>
        <Fact name="Notes">{song.notes.toLocaleString('en')}</Fact>
        <Fact name="Format">
          {song.format}, {song.divisionText}
        </Fact>
      </Facts>
      <div className="mt-5 flex items-center gap-2 text-[12px] text-faint">
        <Choice label="Middle C is" value={middleC} options={asSaid([3, 4, 5] as const, (octave) => `C${octave}`)} set={setMiddleC} />
      </div>
      <p className="mt-4 text-[12px] text-faint">Select tracks to rename, move or remove them. Arrow keys go, Space selects, F2 renames, Alt with an arrow moves.</p>
    </>
  );
}

function TrackFacts({ track, song }: { track: TrackView; song: SongView }) {
  const middleC = usePreferences((p) => p.middleC);
  const { pitch, velocity } = track;
  const others = { 'pitch bend': track.counts.pitchBend, pressure: track.counts.pressure, 'system exclusive': track.counts.systemExclusive, lyric: track.counts.lyrics, text: track.counts.texts, tempo: track.counts.tempos, meter: track.counts.meters, marker: track.counts.markers };
  const present = Object.fromEntries(Object.entries(others).filter(([, n]) => n > 0));
  return (
    <Facts title={track.name || `Track ${song.tracks.indexOf(track) + 1}, no name`}>
      <Fact name="Channel" look={track.channels.length > 1}>
        {track.channels.join(', ') || 'none'}
        {track.ports.length > 0 && ` on port ${track.ports.map((p) => p + 1).join(', ')}`}
      </Fact>
      {track.programs.length > 0 && (
        <Fact name="Program" look={track.programs.length > 1}>
          {track.programs.slice(0, 6).map((p, i) => (
            <span key={i} className="block">
              <span className="num">{p.program}</span> {p.name}
              {p.bank !== undefined && <span className="num text-faint"> bank {p.bank >> 7}/{p.bank & 127}</span>}
            </span>
          ))}
          {track.programs.length > 6 && `and ${track.programs.length - 6} more`}
        </Fact>
      )}
      <Fact name="Notes">
        {track.notes.toLocaleString('en')}
        {track.hangingNotes > 0 && <span className="text-ochre">, {track.hangingNotes} never end</span>}
      </Fact>
      {pitch && (
        <Fact name="Pitch">
          {keyName(pitch.lowest, middleC)} to {keyName(pitch.highest, middleC)}
        </Fact>
      )}
      {velocity && (
        <Fact name="Velocity" look={isFlat(track)}>
          {velocity.distinct === 1 ? `${velocity.lowest} throughout` : `${velocity.lowest} to ${velocity.highest}, mean ${velocity.mean}`}
        </Fact>
      )}
      {track.controllers.length > 0 && (
        <Fact name="Controllers">
          {track.controllers.map((c) => (
            <span key={c.controller} className="flex justify-between gap-2">
              <span>
                <span className="num text-faint">{c.controller}</span> {c.name}
              </span>
              <span className="num">{c.count.toLocaleString('en')}</span>
            </span>
          ))}
        </Fact>
      )}
      {Object.keys(present).length > 0 && <Fact name="Besides">{counts(present)}</Fact>}
      <Fact name="Events">{track.events.toLocaleString('en')}</Fact>
    </Facts>
  );
}

function ManyFacts({ tracks }: { tracks: readonly TrackView[] }) {
  const sum = (of: (t: TrackView) => number): string => tracks.reduce((n, t) => n + of(t), 0).toLocaleString('en');
  return (
    <Facts title={`${tracks.length} tracks`}>
      <Fact name="Notes">{sum((t) => t.notes)}</Fact>
      <Fact name="Events">{sum((t) => t.events)}</Fact>
      <Fact name="Channels">{[...new Set(tracks.flatMap((t) => t.channels))].sort((a, b) => a - b).join(', ') || 'none'}</Fact>
    </Facts>
  );
}

function Actions({ song, selected, actions }: { song: SongView; selected: readonly TrackView[]; actions: TrackActions }) {
  const [naming, setNaming] = useState(false);
  const ids = selected.map((t) => t.id);
  const preview = usePreview(song, { operation: 'tracks.remove', scope: { tracks: ids } });
  const onlyMap = song.mapTrack && ids.length === 1 && ids[0] === song.tracks[0]!.id;
  const removed = preview.data?.report.changes.filter((c) => c.did === 'removed') ?? [];
  const moved = preview.data?.report.changes.find((c) => c.did === 'changed');
  const total: Record<string, number> = {};
  for (const change of removed) for (const [kind, n] of Object.entries(change.counts)) total[kind] = (total[kind] ?? 0) + n;
  return (
    <div className="mt-4 border-t border-line pt-3">
      {naming ? (
        <NameField
          label={`Name of ${selected.length} tracks`}
          initial={selected.length > 1 ? 'Part {n}' : selected[0]!.name}
          className="mb-2 w-full"
          done={(name) => {
            setNaming(false);
            if (name !== undefined) actions.rename(ids, name);
          }}
        />
      ) : (
        <div className="mb-2 flex flex-wrap gap-1.5">
          <Button onClick={() => setNaming(true)} disabled={actions.busy}>
            <Pencil size={13} aria-hidden /> Rename
          </Button>
          <Button onClick={() => actions.nudge(-1)} disabled={actions.busy || onlyMap} aria-label="Move up" title="Move up (Alt+↑)">
            <ArrowUp size={14} aria-hidden />
          </Button>
          <Button onClick={() => actions.nudge(1)} disabled={actions.busy || onlyMap} aria-label="Move down" title="Move down (Alt+↓)">
            <ArrowDown size={14} aria-hidden />
          </Button>
          <Button kind="harm" onClick={actions.remove} disabled={actions.busy || preview.isError} aria-label="Remove" title="Remove (Delete)">
            <Trash2 size={13} aria-hidden /> Remove
          </Button>
        </div>
      )}
      {naming && selected.length > 1 && <p className="mb-2 text-[12px] text-faint">{'{n}'} becomes 1, 2, 3 … in their order.</p>}
      {/* Room for what the preview will say: what stands below must not move under the pointer. */}
      <p className="min-h-[68px] text-[12px] text-faint" aria-live="polite">
        {preview.isError && 'All tracks are selected: a song keeps at least one.'}
        {removed.length > 0 && `Removing takes out ${counts(total) || 'no events'}.`}
        {moved && ' Tempo, meters and markers stay, in the first track left.'}
      </p>
    </div>
  );
}
