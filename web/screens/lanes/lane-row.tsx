import { useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { laneWords } from '#core/edit/lane-settings.ts';
import { laneKey } from '#core/song/lanes.ts';
import { meterMap } from '#core/timing/meter-map.ts';
import { useStep } from '../../api/queries.ts';
import { drawGrid } from '../../drawing/notes.ts';
import { laneData, LaneStrip } from '../../plane/lane-strip.tsx';
import { PlaneCanvas, type PlaneDraw } from '../../plane/plane-canvas.tsx';
import type { Plane } from '../../plane/plane.ts';
import { PlanePlayhead } from '../../plane/playhead.tsx';
import { useMarked } from '../../state/marked.ts';
import type { Bars } from '../../state/scope.ts';
import { LaneHead } from './lane-head.tsx';
import type { LaneOfTrack } from './lane-groups.ts';

interface Props {
  readonly song: SongView;
  readonly one: LaneOfTrack;
  readonly by: 'track' | 'controller';
  readonly plane: Plane;
  /** Its canvas says how wide the plane is, and follows what is heard. */
  readonly leads: boolean;
  readonly erasing: boolean;
  readonly bars: Bars | undefined;
  /** As high as a line of text. */
  readonly low: boolean;
  /** Makes it high, or low again; undefined where it is high in any case. */
  readonly raise: (() => void) | undefined;
}

/** A lane with what is done to it whole; what is done to its values is done by drawing. */
export function LaneRow({ song, one, by, plane, leads, erasing, bars, low, raise }: Props) {
  const { track, events, lane, part } = one;
  const step = useStep(song.id, song.revision);
  const rows = useMarked(song)?.rows[track.id];
  const data = useMemo(() => laneData(events, lane, rows), [events, lane, rows]);
  const parked = track.parked?.includes(laneKey(lane.channel, lane.what)) ?? false;
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
  return (
    <li
      className={`grid grid-cols-[190px_minmax(0,1fr)] border-b border-line ${low ? 'h-[30px] shrink-0' : 'min-h-[78px] shrink-0 grow'}`}
    >
      <LaneHead one={one} by={by} parked={parked} low={low} raise={raise} step={step} bars={bars} />
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
            label={`${laneWords(lane.what)} of ${part}${parked ? ', parked' : ''}`}
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
