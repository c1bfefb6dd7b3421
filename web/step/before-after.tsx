import { useMemo } from 'react';
import type { TrackView } from '#contracts/songs.ts';
import { Canvas } from '../drawing/canvas.tsx';
import { drawPitch, drawVelocity, isFlat } from '../drawing/glyphs.ts';
import { drawPicture } from '../drawing/picture.ts';
import type { Picture } from '../desk/picture.ts';

/** The tracks a step would change, as they are and as they would be. */
export function BeforeAfter({
  before,
  after,
  pictures,
}: {
  before: readonly TrackView[];
  after: readonly TrackView[];
  pictures: Readonly<Record<string, Picture>>;
}) {
  return (
    <ul className="mt-2 space-y-2" aria-label="Before and after">
      {after.slice(0, 6).map((track) => (
        <Pair
          key={track.id}
          before={before.find((t) => t.id === track.id)}
          after={track}
          picture={pictures[track.id]}
        />
      ))}
      {after.length > 6 && <li className="text-[12px] text-faint">and more</li>}
    </ul>
  );
}

const sameVelocity = (a: TrackView, b: TrackView): boolean =>
  a.velocity?.lowest === b.velocity?.lowest &&
  a.velocity?.highest === b.velocity?.highest &&
  a.velocity?.mean === b.velocity?.mean &&
  a.velocity?.distinct === b.velocity?.distinct;

const samePitch = (a: TrackView, b: TrackView): boolean =>
  a.pitch?.lowest === b.pitch?.lowest && a.pitch?.highest === b.pitch?.highest;

function Pair({
  before,
  after,
  picture,
}: {
  before: TrackView | undefined;
  after: TrackView;
  picture: Picture | undefined;
}) {
  const events =
    before && before.events !== after.events
      ? `${before.events.toLocaleString('en')} → ${after.events.toLocaleString('en')} events`
      : `${after.events.toLocaleString('en')} events`;
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
      {picture && <Stretch picture={picture} />}
    </li>
  );
}

/** Notes and values around the first change: as they are faint, as they would be in ink. */
function Stretch({ picture }: { picture: Picture }) {
  const notes = useMemo(() => drawPicture(picture, 'notes'), [picture]);
  const lane = useMemo(() => drawPicture(picture, 'lane'), [picture]);
  return (
    <>
      {picture.notes && (
        <Canvas
          draw={notes}
          className="mt-1.5 h-[64px] w-full"
          label="Notes around the first change, before and after"
        />
      )}
      {picture.lane && (
        <Canvas
          draw={lane}
          className="mt-1.5 h-[48px] w-full"
          label="Values around the first change, before and after"
        />
      )}
    </>
  );
}

function Velocity({ track }: { track: TrackView }) {
  const draw = useMemo(() => drawVelocity(track.velocity, isFlat(track)), [track]);
  const { velocity } = track;
  return (
    <Canvas
      draw={draw}
      className="h-[30px] min-w-0 flex-1"
      label={velocity ? `velocity ${velocity.lowest} to ${velocity.highest}` : 'no velocity'}
    />
  );
}

function Pitch({ track }: { track: TrackView }) {
  const draw = useMemo(() => drawPitch(track.pitch), [track]);
  return (
    <Canvas
      draw={draw}
      className="h-[22px] min-w-0 flex-1"
      label={track.pitch ? `keys ${track.pitch.lowest} to ${track.pitch.highest}` : 'no notes'}
    />
  );
}
