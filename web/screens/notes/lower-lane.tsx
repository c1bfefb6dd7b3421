import { Eraser } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { controllerName } from '#core/instruments/controllers.ts';
import { laneWords } from '#core/edit/lane-settings.ts';
import type { Events } from '#core/smf/events.ts';
import { laneKey, lanesOf, type Lane } from '#core/song/lanes.ts';
import type { NoteTable } from '#core/song/note-table.ts';
import type { StepAsked, useStep } from '../../api/queries.ts';
import { gutter } from '../../drawing/notes.ts';
import type { Plane } from '../../plane/plane.ts';
import { laneData, LaneStrip } from '../../plane/lane-strip.tsx';
import { VelocityStrip } from './velocity-strip.tsx';
import { Choice } from '../../fields/choice.tsx';
import { ToggleButton } from '../../components/toggle-button.tsx';

interface Props {
  readonly song: SongView;
  readonly track: TrackView;
  readonly events: Events;
  readonly plane: Plane;
  readonly table: NoteTable;
  readonly focus: number;
  readonly selected: Uint8Array;
  readonly any: boolean;
  readonly velocities: (values: ReadonlyMap<number, number>) => void;
  readonly step: ReturnType<typeof useStep>;
}

const usual: readonly Lane['what'][] = [1, 7, 10, 11, 64, 'bend'];

/** Beneath the notes: velocities, or a lane of the track in focus. */
export function LowerLane({ track, events, plane, velocities, step, ...notes }: Props) {
  const [shown, setShown] = useState('velocity');
  const [erasing, setErasing] = useState(false);
  const there = useMemo(() => lanesOf(events), [events]);
  const names = useMemo(() => namesOf(there, track), [there, track]);
  const lane = there.find((l) => laneKey(l.channel, l.what) === shown) ?? blankLane(shown, names);
  const data = useMemo(() => lane && laneData(events, lane), [lane, events]);
  const parked = track.parked?.includes(shown) ?? false;
  return (
    <div
      className="grid h-[108px] shrink-0 border-t border-line bg-sheet"
      style={{ gridTemplateColumns: `${gutter}px minmax(0,1fr)` }}
    >
      <div className="flex flex-col items-center gap-1 border-r border-line py-1">
        <ToggleButton
          pressed={erasing}
          set={setErasing}
          className="!px-1.5"
          aria-label="Erase"
          title="Erase: dragging takes values out"
          disabled={!lane}
        >
          <Eraser size={13} aria-hidden />
        </ToggleButton>
      </div>
      <div className="relative min-w-0">
        <div className="absolute inset-0">
          {lane && data ? (
            <LaneStrip
              plane={plane}
              lane={data}
              parked={parked}
              erasing={erasing}
              label={`${laneWords(lane.what)} of ${track.name}; draw to write values`}
              write={(from, to, points) => step.mutate(writing(track, lane, { from, to, points }))}
            />
          ) : (
            <VelocityStrip
              plane={plane}
              table={notes.table}
              focus={notes.focus}
              selected={notes.selected}
              any={notes.any}
              stroke={velocities}
            />
          )}
        </div>
        <div className="absolute top-1 left-2 text-[12px]">
          <Choice
            label="Beneath the notes"
            hidden
            value={names.has(shown) ? shown : 'velocity'}
            options={[['velocity', 'Velocity'], ...names]}
            set={setShown}
          />
        </div>
      </div>
    </div>
  );
}

/** Lanes by their keys: those that the track has and those that are usual, with what they are called. */
function namesOf(there: readonly Lane[], { channels, parked }: TrackView): Map<string, string> {
  const first = (channels[0] ?? 1) - 1;
  const names = [
    ...there.map((l) => [l.channel, l.what, channels.length > 1 ? l.channel : undefined] as const),
    ...usual.map((what) => [first, what, undefined] as const),
  ];
  return new Map(
    names.map(([channel, what, said]) => {
      const key = laneKey(channel, what);
      return [key, `${nameOf(what, said)}${parked?.includes(key) ? ' (parked)' : ''}`];
    }),
  );
}

const writing = (
  track: TrackView,
  { channel, what }: Lane,
  stroke: { from: number; to: number; points: readonly unknown[] },
): StepAsked => ({
  operation: 'controllers.write',
  settings: { track: track.id, channel: channel + 1, lane: what, ...stroke },
});

const nameOf = (what: Lane['what'], channel?: number): string =>
  `${typeof what === 'number' ? controllerName(what) : what === 'bend' ? 'Pitch bend' : 'Pressure'}${channel === undefined ? '' : `, channel ${channel + 1}`}`;

/** A lane that the track does not have yet. */
function blankLane(key: string, names: ReadonlyMap<string, string>): Lane | undefined {
  if (!names.has(key)) return undefined;
  const [channel, what] = key.split(':') as [string, string];
  return {
    channel: Number(channel),
    what: /^\d+$/.test(what) ? Number(what) : (what as 'bend'),
    rows: [],
    values: [],
  };
}
