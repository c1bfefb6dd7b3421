import { barTick, positionAt } from '../../timing/meter-map.ts';
import type { Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** Markers a hair off the bar line: nearer than a sixteenth, and not on it. */
export function markersOffBar({ timing, meters, quarter }: LookedSong): Noticed[] {
  const off = [...timing.markers, ...timing.cuePoints].filter(({ atTick }) => {
    const { bar } = positionAt(meters, atTick);
    const away = Math.min(atTick - barTick(meters, bar), barTick(meters, bar + 1) - atTick);
    return away > 0 && away < quarter / 4;
  });
  if (off.length === 0) return [];
  const bar = positionAt(meters, off[0]!.atTick).bar;
  return [
    {
      title:
        off.length === 1
          ? 'A marker stands a hair off the bar line'
          : `${off.length.toLocaleString('en')} markers stand a hair off the bar line`,
      why: 'What is cut or looped at the marker then begins or ends with a click, or loses the first note.',
      tracks: [],
      bars: { from: bar, to: bar },
      count: off.length,
      sure: 'likely',
      settle: [
        {
          title: 'Bring them to the bar line',
          operation: 'timing.snap',
          settings: { markers: true, meters: false, window: '1/16' },
          scope: { tracks: 'all' },
        },
      ],
    },
  ];
}

/** Meter changes inside a bar, which cut it short. */
export function metersInBar({ timing, quarter }: LookedSong): Noticed[] {
  let from = 0;
  let barTicks = quarter * 4;
  const off: { atTick: number; away: number }[] = [];
  let inForce = { numerator: 4, denominator: 4 };
  for (const { atTick, numerator, denominator } of timing.meters) {
    // A meter that is stated again begins no bar.
    if (numerator === inForce.numerator && denominator === inForce.denominator) continue;
    inForce = { numerator, denominator };
    const into = (atTick - from) % barTicks;
    const away = Math.min(into, barTicks - into);
    if (away > 0.5) off.push({ atTick, away });
    from = atTick;
    barTicks = (quarter * 4 * numerator) / denominator;
  }
  if (off.length === 0) return [];
  const near = off.every(({ away }) => away < quarter / 4);
  return [
    {
      title:
        off.length === 1
          ? 'A meter changes inside a bar'
          : `${off.length.toLocaleString('en')} meters change inside a bar`,
      why: 'The bar is cut short there. Programs that count whole bars put every bar line behind it elsewhere.',
      tracks: [],
      count: off.length,
      sure: 'certain',
      settle: near
        ? [
            {
              title: 'Bring them to the bar line',
              operation: 'timing.snap',
              settings: { markers: false, meters: true, window: '1/16' },
              scope: { tracks: 'all' },
            },
          ]
        : [],
    },
  ];
}
