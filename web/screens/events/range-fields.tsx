import type { TrackView } from '#contracts/songs.ts';
import { keyName } from '#core/units/units.ts';
import { usePreferences } from '../../state/preferences.ts';
import type { Kind, Ranges } from './filter.ts';
import { Choice } from '../../fields/choice.tsx';

const box = 'num w-[46px] rounded border border-line bg-sheet px-1 py-0.5 text-right';

/** What can be narrowed further: notes by key and velocity, controllers by which. */
export function RangeFields({
  kind,
  tracks,
  ranges,
  set,
}: {
  kind: Kind;
  tracks: readonly TrackView[];
  ranges: Ranges;
  set: (ranges: Ranges) => void;
}) {
  const middleC = usePreferences((p) => p.middleC);
  if (kind === 'controllers') {
    const names = new Map(
      tracks.flatMap((t) => t.controllers.map((c) => [c.controller, c.name] as const)),
    );
    return (
      <Choice
        label="Controller"
        hidden
        value={ranges.controller ?? ''}
        options={[
          ['', 'every controller'],
          ...[...names]
            .sort(([a], [b]) => a - b)
            .map(([number, name]) => [number, `${number} ${name}`] as const),
        ]}
        set={(controller) => set(typeof controller === 'string' ? {} : { controller })}
      />
    );
  }
  if (kind !== 'notes') return null;
  const pair = (
    name: string,
    [from, to]: readonly [number, number],
    [least, most]: readonly [number, number],
    take: (pair: [number, number]) => void,
  ) => (
    <span className="flex items-center gap-1">
      {name}
      <input
        type="number"
        aria-label={`Lowest ${name.toLowerCase()}`}
        className={box}
        min={least}
        max={most}
        value={from}
        onChange={(e) => take([Math.min(most, Math.max(least, Number(e.target.value))), to])}
      />
      –
      <input
        type="number"
        aria-label={`Highest ${name.toLowerCase()}`}
        className={box}
        min={least}
        max={most}
        value={to}
        onChange={(e) => take([from, Math.min(most, Math.max(least, Number(e.target.value)))])}
      />
    </span>
  );
  return (
    <>
      {pair('Key', ranges.keys ?? [0, 127], [0, 127], (keys) => set({ ...ranges, keys }))}
      {ranges.keys && (
        <span className="num text-faint">
          {keyName(ranges.keys[0], middleC)} to {keyName(ranges.keys[1], middleC)}
        </span>
      )}
      {pair('Velocity', ranges.velocities ?? [1, 127], [1, 127], (velocities) =>
        set({ ...ranges, velocities }),
      )}
    </>
  );
}
