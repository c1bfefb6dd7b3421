import { useState } from 'react';
import { tappedBpm } from '#core/timing/tap.ts';
import { Button } from '../../components/button.tsx';

/** A button to tap a tempo on, with a finger or the space bar; from the second tap on the tempo is filled in. */
export function TapTempo({ set }: { set: (bpm: number) => void }) {
  const [times, setTimes] = useState<readonly number[]>([]);
  const bpm = tappedBpm(times);
  const tap = (at: number): void => {
    const next = [...times, at / 1000].slice(-64);
    setTimes(next);
    const found = tappedBpm(next);
    if (found !== undefined && found >= 4 && found <= 1000) set(Math.round(found * 10) / 10);
  };
  return (
    <div className="mt-3 mb-3 flex items-center gap-2">
      <Button
        onPointerDown={(e) => tap(e.timeStamp)}
        onKeyDown={(e) => {
          if ((e.key !== ' ' && e.key !== 'Enter') || e.repeat) return;
          e.preventDefault();
          tap(e.timeStamp);
        }}
      >
        Tap the tempo
      </Button>
      <span className="num text-faint">
        {bpm === undefined ? '' : `${Math.round(bpm * 10) / 10} BPM`}
      </span>
    </div>
  );
}
