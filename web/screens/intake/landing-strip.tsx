import type { Held, Lands } from '../../intake/bring-model.ts';

/** Where a track would play: its notes as stitches on the length of the song, or of what it would be then. */
export function LandingStrip({
  track,
  timing,
  lands,
  whole,
  songEnds,
}: {
  track: Held['tracks'][number];
  timing: Held['timing'];
  lands: Lands;
  /** Ticks of the whole width. */
  whole: number;
  songEnds: number;
}) {
  const part = (tick: number): number => (tick / whole) * 1000;
  const most = Math.max(1, ...track.activity);
  const { cellTicks, endTick } = timing;
  const { taken } = lands;
  const path = track.activity
    .map((notes, n) => {
      const from = Math.max(taken.from, cellTicks[n]!);
      const to = Math.min(cellTicks[n + 1] ?? endTick, taken.to);
      if (notes === 0 || from >= to) return '';
      const [x, until] = [part(lands.at(from)), part(lands.at(to))];
      const height = 3 + 11 * Math.min(1, notes / most);
      return `M${x.toFixed(1)} ${(9 - height / 2).toFixed(1)}h${Math.max(1.5, until - x - 0.8).toFixed(1)}v${height.toFixed(1)}H${x.toFixed(1)}z`;
    })
    .join('');
  return (
    <svg
      viewBox="0 0 1000 18"
      preserveAspectRatio="none"
      className="block h-[18px] w-full"
      aria-hidden
    >
      <path d={`M0 17.5H${part(songEnds)}`} stroke="var(--color-line)" strokeWidth={1} />
      <path d={path} fill="var(--color-stitch)" />
      <path d={`M${part(lands.begins) + 1} 0V18`} stroke="var(--color-amber)" strokeWidth={3} />
    </svg>
  );
}
