import { useMemo } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { distributionsOf } from '#core/song/distributions.ts';
import { quarterTicks } from '#core/timing/meter-map.ts';
import { problemOf } from '../api/client.ts';
import { useMaps } from '../api/maps.ts';
import { ProblemNote } from '../components/problem-note.tsx';
import { useTrackEvents } from '../tracks/track-events.ts';
import { BarChart } from './bar-chart.tsx';

/** A track in numbers: how its velocities, lengths, places beside the grid and controllers are spread. */
export default function TrackNumbers({ song, track }: { song: SongView; track: TrackView }) {
  const tracks = useMemo(() => [track], [track]);
  const { events, error } = useTrackEvents(tracks);
  const maps = useMaps(song);
  const distributions = useMemo(
    () =>
      events &&
      distributionsOf(events[0]!, {
        meters: maps.meters,
        tempo: maps.tempo,
        quarter: quarterTicks(song.division),
      }),
    [events, maps, song.division],
  );
  if (error) return <ProblemNote problem={problemOf(error)} harm />;
  if (!distributions) return <p className="text-faint">Counting …</p>;
  if (distributions.length === 0)
    return <p className="text-faint">It has neither notes nor controllers.</p>;
  return distributions.map((d) => <BarChart key={d.of} {...d} />);
}
