import { Eraser, PauseCircle, PlayCircle } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { laneWords } from '#core/edit/lane-settings.ts';
import type { Events } from '#core/smf/events.ts';
import { laneKey, lanesOf, type Lane } from '#core/song/lanes.ts';
import { meterMap } from '#core/timing/meter-map.ts';
import { problemOf } from '../../api/client.ts';
import { useStep } from '../../api/queries.ts';
import { useLoaded } from '../../tracks/track-events.ts';
import { ProblemNote } from '../../components/problem-note.tsx';
import { count } from '../../components/text.ts';
import { drawGrid } from '../../drawing/notes.ts';
import { PlaneCanvas, type PlaneDraw } from '../../plane/plane-canvas.tsx';
import type { Plane } from '../../plane/plane.ts';
import { PlanePlayhead } from '../../plane/playhead.tsx';
import { firstMarked, useMarked } from '../../state/marked.ts';
import { useScope } from '../../state/scope.ts';
import { ZoomButtons } from '../../plane/zoom-buttons.tsx';
import { usePlane } from '../../plane/use-plane.ts';
import { useThisSong } from '../../state/use-song.ts';
import { laneData, LaneStrip } from '../../plane/lane-strip.tsx';
import { Choice } from '../../fields/choice.tsx';
import { ToggleButton } from '../../components/toggle-button.tsx';

/** Controller lanes of the selected tracks, or one controller across all of them. */
export function LanesScreen() {
  const song = useThisSong();
  const selected = useScope((s) => s.tracks);
  const tracks = useMemo(
    () =>
      song.tracks.filter(
        (t) =>
          (selected.size === 0 || selected.has(t.id)) &&
          (t.controllers.length > 0 || t.counts.pitchBend > 0 || t.counts.pressure > 0),
      ),
    [song.tracks, selected],
  );
  const { loaded, error } = useLoaded(song, tracks);
  return (
    <main aria-label="Lanes" className="flex min-h-0 flex-col">
      {error ? (
        <ProblemNote problem={problemOf(error)} harm />
      ) : tracks.length === 0 ? (
        <p className="p-6 text-faint">
          {selected.size === 0
            ? 'No track of this song has controllers, bend or pressure.'
            : 'The selected tracks have no controllers, bend or pressure.'}{' '}
          They can be drawn beneath the notes in the note view.
        </p>
      ) : !loaded ? (
        <p className="p-6 text-faint">Fetching the lanes …</p>
      ) : (
        <LaneList {...loaded} />
      )}
    </main>
  );
}

interface Row {
  readonly track: TrackView;
  readonly events: Events;
  readonly lane: Lane;
}

function LaneList({
  song,
  tracks,
  events,
}: {
  song: SongView;
  tracks: readonly TrackView[];
  events: readonly Events[];
}) {
  const bars = useScope((s) => s.bars);
  const marked = useMarked(song);
  const plane = usePlane(song, tracks, bars, firstMarked(marked));
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    if (marked) list.current?.focus();
  }, [marked]);
  const [erasing, setErasing] = useState(false);
  const [only, setOnly] = useState('');
  const rows = useMemo(
    () =>
      tracks.flatMap((track, i) =>
        lanesOf(events[i]!).map((lane): Row => ({ track, events: events[i]!, lane })),
      ),
    [tracks, events],
  );
  const kinds = useMemo(
    () => [...new Map(rows.map((r) => [String(r.lane.what), laneWords(r.lane.what)]))],
    [rows],
  );
  const shown = rows.filter((r) => only === '' || String(r.lane.what) === only);
  return (
    <>
      <div className="flex items-center gap-3 border-b border-line px-3 py-1.5">
        <h2 className="text-[16px] font-semibold">Lanes</h2>
        <span className="text-faint">
          {count(shown.length, 'lane')} of{' '}
          {tracks.length === 1 ? tracks[0]!.name || 'one track' : count(tracks.length, 'track')}
        </span>
        <div className="ml-auto flex items-center gap-3">
          <ZoomButtons plane={plane} song={song} bars={bars} />
          <Choice
            label="Show"
            value={only}
            options={[['', 'every lane'], ...kinds]}
            set={setOnly}
          />
        </div>
        <ToggleButton pressed={erasing} set={setErasing} title="Dragging takes values out">
          <Eraser size={13} aria-hidden /> Erase
        </ToggleButton>
      </div>
      <ul aria-label="Lanes" ref={list} tabIndex={-1} className="min-h-0 flex-1 overflow-y-auto">
        {shown.slice(0, mostRows).map((row, i) => (
          <LaneRow
            key={`${row.track.id} ${laneKey(row.lane.channel, row.lane.what)}`}
            song={song}
            row={row}
            plane={plane}
            leads={i === 0}
            erasing={erasing}
            bars={bars}
          />
        ))}
        {shown.length > mostRows && (
          <li className="p-3 text-faint">
            and {shown.length - mostRows} more: select tracks on the sheet, or show one controller.
          </li>
        )}
      </ul>
    </>
  );
}

/** More lanes than this nobody looks at together. */
const mostRows = 60;

function LaneRow({
  song,
  row: { track, events, lane },
  plane,
  leads,
  erasing,
  bars,
}: {
  song: SongView;
  row: Row;
  plane: Plane;
  leads: boolean;
  erasing: boolean;
  bars: { from: number; to: number } | undefined;
}) {
  const step = useStep(song.id, song.revision);
  const rows = useMarked(song)?.rows[track.id];
  const data = useMemo(() => laneData(events, lane, rows), [events, lane, rows]);
  const parked = track.parked?.includes(laneKey(lane.channel, lane.what)) ?? false;
  const name = laneWords(lane.what);
  const meters = useMemo(
    () => meterMap(song.timing.meters, song.division),
    [song.timing.meters, song.division],
  );
  const grid = useMemo<PlaneDraw>(
    () =>
      (c, { height }, inks) =>
        drawGrid(c, plane, height, { meters, bars, keys: false }, inks),
    [plane, meters, bars],
  );
  const call = track.name || `track ${song.tracks.indexOf(track) + 1}`;
  return (
    <li className="grid h-[78px] grid-cols-[190px_minmax(0,1fr)] border-b border-line">
      <div
        className={`flex flex-col gap-0.5 border-r border-line px-3 py-1.5 ${parked ? 'text-faint' : ''}`}
      >
        <span className="truncate font-medium">{call}</span>
        <span className="truncate text-[12px]">
          {typeof lane.what === 'number' && <span className="num text-faint">{lane.what} </span>}
          {name}
          {track.channels.length > 1 && <span className="text-faint">, ch {lane.channel + 1}</span>}
        </span>
        <span className="mt-auto flex items-center gap-1 text-[12px] text-faint">
          <span className="whitespace-nowrap" title={count(lane.rows.length, 'value')}>
            {lane.rows.length < 1000
              ? count(lane.rows.length, 'value')
              : lane.rows.length.toLocaleString('en')}
          </span>
          {!parked && lane.rows.length > 2 && (
            <button
              type="button"
              className="ml-auto rounded border border-line px-1.5 text-ink"
              title="Leave out values, at most one step off"
              disabled={step.isPending}
              onClick={() =>
                step.mutate({
                  operation: 'controllers.thin',
                  settings: { error: 1, lanes: [lane.what] },
                  scope: { tracks: [track.id], bars },
                })
              }
            >
              Thin
            </button>
          )}
          <button
            type="button"
            className={`flex items-center gap-1 rounded border border-line px-1.5 text-ink ${parked || lane.rows.length <= 2 ? 'ml-auto' : ''}`}
            title={parked ? 'Play and send it again' : 'Keep it, but neither play nor send it'}
            disabled={step.isPending}
            onClick={() =>
              step.mutate({
                operation: parked ? 'controllers.unpark' : 'controllers.park',
                settings: { lanes: [lane.what] },
                scope: { tracks: [track.id] },
              })
            }
          >
            {parked ? <PlayCircle size={12} aria-hidden /> : <PauseCircle size={12} aria-hidden />}
            {parked ? 'Unpark' : 'Park'}
          </button>
        </span>
      </div>
      <div className="relative">
        <PlaneCanvas
          plane={plane}
          draw={grid}
          leads={leads}
          aria-hidden
          className="absolute inset-0 h-full w-full"
        />
        <PlanePlayhead song={song} plane={plane} follows={leads} />
        <div className="absolute inset-0">
          <LaneStrip
            plane={plane}
            lane={data}
            parked={parked}
            erasing={erasing}
            label={`${name} of ${call}${parked ? ', parked' : ''}`}
            write={(from, to, points) =>
              step.mutate({
                operation: 'controllers.write',
                settings: {
                  track: track.id,
                  channel: lane.channel + 1,
                  lane: lane.what,
                  from,
                  to,
                  points,
                },
              })
            }
          />
        </div>
      </div>
    </li>
  );
}
