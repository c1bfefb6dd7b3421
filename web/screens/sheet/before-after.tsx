import { useMemo } from 'react';
import type { TrackView } from '#contracts/songs.ts';
import { Canvas } from '../../drawing/canvas.tsx';
import { drawPitch, drawVelocity, isFlat } from '../../drawing/glyphs.ts';

/** The tracks a step would change, as they are and as they would be. */
export function BeforeAfter({ before, after }: { before: readonly TrackView[]; after: readonly TrackView[] }) {
  return (
    <ul className="mt-2 space-y-2" aria-label="Before and after">
      {after.slice(0, 6).map((track) => (
        <Pair key={track.id} before={before.find((t) => t.id === track.id)} after={track} />
      ))}
      {after.length > 6 && <li className="text-[12px] text-faint">and more</li>}
    </ul>
  );
}

const sameVelocity = (a: TrackView, b: TrackView): boolean => a.velocity?.lowest === b.velocity?.lowest && a.velocity?.highest === b.velocity?.highest && a.velocity?.mean === b.velocity?.mean && a.velocity?.distinct === b.velocity?.distinct;

const samePitch = (a: TrackView, b: TrackView): boolean => a.pitch?.lowest === b.pitch?.lowest && a.pitch?.highest === b.pitch?.highest;

function Pair({ before, after }: { before: TrackView | undefined; after: TrackView }) {
  const events = before && before.events !== after.events ? `${before.events.toLocaleString('en')} → ${after.events.toLocaleString('en')} events` : `${after.events.toLocaleString('en')} events`;
  return (
    <li className="rounded border border-line bg-paper px-2 py-1.5">
      <div className="flex justify-between gap-2">
        <span className="truncate">{after.name || 'no name'}</span>
        <span className="num shrink-0 text-faint">{events}</span>
      </div>
      {before && !sameVelocity(before, after) && (
        <div className="mt-1 flex items-center gap-2">
          <Velocity track={before} />
          <span aria-hidden>→</span>
          <Velocity track={after} />
        </div>
      )}
      {before && !samePitch(before, after) && (
        <div className="mt-1 flex items-center gap-2">
          <Pitch track={before} />
          <span aria-hidden>→</span>
          <Pitch track={after} />
        </div>
      )}
    </li>
  );
}

function Velocity({ track }: { track: TrackView }) {
  const draw = useMemo(() => drawVelocity(track.velocity, isFlat(track)), [track]);
  const { velocity } = track;
  return <Canvas draw={draw} className="h-[30px] min-w-0 flex-1" label={velocity ? `velocity ${velocity.lowest} to ${velocity.highest}` : 'no velocity'} />;
}

function Pitch({ track }: { track: TrackView }) {
  const draw = useMemo(() => drawPitch(track.pitch), [track]);
  return <Canvas draw={draw} className="h-[22px] min-w-0 flex-1" label={track.pitch ? `keys ${track.pitch.lowest} to ${track.pitch.highest}` : 'no notes'} />;
}
