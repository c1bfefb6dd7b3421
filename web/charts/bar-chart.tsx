import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  LinearScale,
  type ChartConfiguration,
} from 'chart.js';
import { useEffect, useRef } from 'react';
import type { Distribution } from '#core/song/distributions.ts';
import { readInks, type Inks } from '../drawing/canvas.tsx';
import { usePreferences } from '../state/preferences.ts';

Chart.register(BarController, BarElement, CategoryScale, LinearScale);

/** A distribution as bars of one colour, told apart by place and height; its numbers stand below as a table. */
export function BarChart({ of, bins }: Distribution) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = usePreferences((p) => p.theme);
  useEffect(() => {
    if (!canvas.current) return;
    const chart = new Chart(canvas.current, configOf(bins, readInks()));
    return () => chart.destroy();
  }, [bins, theme]);
  return (
    <figure className="mb-3">
      <figcaption className="mb-1 text-[12px] font-medium">{of}</figcaption>
      <div className="relative h-[92px]">
        <canvas ref={canvas} role="img" aria-label={`${of}: ${most(bins)}`} />
      </div>
      <Numbers of={of} bins={bins} />
    </figure>
  );
}

/** Where most of them are, in words. */
function most(bins: Distribution['bins']): string {
  const best = bins.reduce((a, b) => (b.count > a.count ? b : a));
  return `most at ${best.name}, ${best.count.toLocaleString('en')} of ${bins.reduce((sum, b) => sum + b.count, 0).toLocaleString('en')}`;
}

/** The chart without what moves or answers: it is read, its numbers as well. */
function configOf(bins: Distribution['bins'], inks: Inks): ChartConfiguration<'bar'> {
  const ticks = { color: inks.faint, font: { size: 10 } };
  return {
    type: 'bar',
    data: {
      labels: bins.map((b) => b.name),
      datasets: [
        {
          data: bins.map((b) => b.count),
          backgroundColor: inks.stitch,
          barPercentage: 0.92,
          categoryPercentage: 0.96,
        },
      ],
    },
    options: {
      animation: false,
      responsive: true,
      maintainAspectRatio: false,
      events: [],
      scales: {
        x: {
          grid: { display: false },
          border: { color: inks.line },
          ticks: { ...ticks, maxRotation: 0, autoSkipPadding: 8 },
        },
        y: {
          beginAtZero: true,
          grid: { color: inks.line },
          border: { display: false },
          ticks: { ...ticks, maxTicksLimit: 4, precision: 0 },
        },
      },
    },
  };
}

const Numbers = ({ of, bins }: Distribution) => (
  <details className="text-[12px] text-faint">
    <summary className="w-fit cursor-pointer">Numbers</summary>
    <table className="num mt-1 w-full" aria-label={of}>
      <tbody>
        {bins
          .filter((b) => b.count > 0)
          .map((b) => (
            <tr key={b.name}>
              <th scope="row" className="text-left font-normal">
                {b.name}
              </th>
              <td className="text-right">{b.count.toLocaleString('en')}</td>
            </tr>
          ))}
      </tbody>
    </table>
  </details>
);
