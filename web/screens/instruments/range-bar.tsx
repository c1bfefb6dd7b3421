import { keyName } from '#core/units/units.ts';
import type { InstrumentDefinition } from '#core/instruments/definition.ts';
import { usePreferences } from '../../state/preferences.ts';

const keys = Array.from({ length: 128 }, (_, key) => key);

/** The keys that can be played, and within them the comfortable ones, on a rule of octaves. */
export function RangeBar({
  playable,
  comfortable,
}: Pick<InstrumentDefinition, 'playable' | 'comfortable'>) {
  const middleC = usePreferences((p) => p.middleC);
  const said = ({ lowest, highest }: { lowest: number; highest: number }): string =>
    `${keyName(lowest, middleC)} to ${keyName(highest, middleC)}`;
  const bar = (range: { lowest: number; highest: number } | null, look: string, y: number) =>
    range && (
      <rect
        x={range.lowest}
        width={Math.max(0, range.highest - range.lowest + 1)}
        y={y}
        height={3}
        className={look}
      />
    );
  return (
    <figure className="mt-1">
      <svg
        viewBox="0 0 128 12"
        preserveAspectRatio="none"
        className="h-[34px] w-full"
        role="img"
        aria-label={playable ? `Plays ${said(playable)}` : 'No range is said'}
      >
        <line x1={0} x2={128} y1={9} y2={9} className="stroke-line" strokeWidth={0.4} />
        {keys
          .filter((key) => key % 12 === 0)
          .map((key) => (
            <line
              key={key}
              x1={key}
              x2={key}
              y1={key === 60 ? 0 : 6}
              y2={9}
              className="stroke-stitch"
              strokeWidth={0.35}
            />
          ))}
        {bar(playable, 'fill-amber-soft', 2)}
        {bar(comfortable, 'fill-amber', 2)}
      </svg>
      <figcaption className="flex justify-between text-[11.5px] text-faint">
        <span>
          {playable ? `plays ${said(playable)}` : 'no range is said: nothing is judged by it'}
          {comfortable && `, at ease ${said(comfortable)}`}
        </span>
        <span>the long mark is middle C</span>
      </figcaption>
    </figure>
  );
}
