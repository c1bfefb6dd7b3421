import { useMemo, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { framesToSeconds } from '#core/timing/timecode.ts';
import { keptPlaces, resolutionFacts, smallestPpq } from '#core/timing/resolution.ts';
import { useMaps } from '../../api/maps.ts';
import { count } from '../../components/text.ts';
import { Choice, asSaid } from '../../fields/choice.tsx';

const common = [24, 96, 192, 240, 384, 480, 960, 1920];

interface Props {
  readonly song: SongView;
  readonly chosen: unknown;
  readonly choose: (ppq: number) => void;
}

/** What resolutions would do to the markers, and the smallest that keeps them within a part of a frame. */
export function ResolutionTable({ song, chosen, choose }: Props) {
  const { tempo } = useMaps(song);
  const { timing, division } = song;
  const [part, setPart] = useState(0.1);
  const ppq = division.kind === 'ppq' ? division.ticksPerQuarter : undefined;
  const ticks = useMemo(() => markedTicks(timing), [timing]);
  const places = useMemo(
    () => (ppq === undefined ? [] : keptPlaces(ticks, tempo, ppq, timing.timecode)),
    [ppq, ticks, tempo, timing.timecode],
  );
  const rate = timing.timecode?.rate;
  const smallest = useMemo(
    () =>
      rate && places.length > 0 ? smallestPpq(places, framesToSeconds(part, rate)) : undefined,
    [places, part, rate],
  );
  if (ppq === undefined) return null;
  if (places.length === 0)
    return (
      <p className="mb-3 text-[12.5px] text-faint">
        There are no markers whose places a resolution could move.
      </p>
    );
  const rows = [...new Set([...common, ppq, ...(smallest ? [smallest] : [])])]
    .sort((a, b) => a - b)
    .map((n) => resolutionFacts(places, n, part, timing.timecode));
  return (
    <section aria-label="What resolutions do to markers" className="mb-3 text-[12.5px]">
      <p className="mb-1 text-faint">
        {count(places.length, 'place')} of markers and sections
        {rate
          ? `, on the frames they stand for at ${rate} a second`
          : '; with a start timecode, frames are counted too'}
        .
      </p>
      {rate && (
        <p className="mb-1 flex flex-wrap items-center gap-1.5">
          <Choice
            label="Within"
            value={part}
            options={asSaid([0.5, 0.25, 0.1, 0.05, 0.01], (n) =>
              n === 0.5 ? 'half' : `1/${Math.round(1 / n)}`,
            )}
            set={setPart}
          />
          of a frame:{' '}
          {smallest === undefined ? 'no resolution does.' : `${smallest} is the smallest.`}
        </p>
      )}
      <Rows rows={rows} now={ppq} chosen={chosen} choose={choose} inFrames={rate !== undefined} />
    </section>
  );
}

const markedTicks = ({ markers, cuePoints, sections }: SongView['timing']): number[] => [
  ...[...markers, ...cuePoints].map((m) => m.atTick),
  ...sections.flatMap((s) => [s.fromTick, s.toTick]),
];

interface RowsProps {
  readonly rows: readonly ReturnType<typeof resolutionFacts>[];
  /** Ticks a quarter as they are, and as the step would set them. */
  readonly now: number;
  readonly chosen: unknown;
  readonly choose: (ppq: number) => void;
  readonly inFrames: boolean;
}

const Rows = ({ rows, now, chosen, choose, inFrames }: RowsProps) => (
  <table className="num w-full">
    <thead className="text-left text-[11px] text-faint">
      <tr>
        <th className="font-normal">Ticks</th>
        <th className="text-right font-normal">Most, ms</th>
        <th className="text-right font-normal">Mean</th>
        {inFrames && <th className="text-right font-normal">Beyond</th>}
      </tr>
    </thead>
    <tbody>
      {rows.map((r) => (
        <tr key={r.ppq} className={r.ppq === chosen ? 'bg-amber-soft' : ''}>
          <td>
            <button
              type="button"
              className="underline decoration-line underline-offset-2 hover:decoration-amber"
              onClick={() => choose(r.ppq)}
            >
              {r.ppq}
            </button>
            {r.ppq === now && <span className="ml-1 text-faint">now</span>}
          </td>
          <td className="text-right">{(r.greatest * 1000).toFixed(2)}</td>
          <td className="text-right">{(r.mean * 1000).toFixed(2)}</td>
          {inFrames && <td className={`text-right ${r.beyond ? 'text-ochre' : ''}`}>{r.beyond}</td>}
        </tr>
      ))}
    </tbody>
  </table>
);
