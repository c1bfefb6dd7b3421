import { format as formatDate } from 'date-fns';
import { beatBpm, notatedBeat } from '#core/timing/notated-beat.ts';
import { tempoToBpm } from '#core/units/units.ts';

/** How the page says numbers. */

export const count = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`;

export const fileSize = (bytes: number): string =>
  bytes < 1000
    ? `${bytes} bytes`
    : bytes < 1_000_000
      ? `${(bytes / 1000).toFixed(1)} kB`
      : `${(bytes / 1_000_000).toFixed(1)} MB`;

/** "24 February 2027". */
export const longDate = (iso: string): string => formatDate(new Date(iso), 'd MMMM yyyy');

/** `m:ss.mmm`, or `m:ss` where thousandths would only be noise; hours before the minutes from one hour on. */
export function duration(seconds: number, thousandths = false): string {
  const whole = thousandths ? Math.round(seconds * 1000) / 1000 : Math.round(seconds);
  const minutes = Math.floor(whole / 60);
  const rest = whole - minutes * 60;
  const clock =
    minutes < 60
      ? String(minutes)
      : `${Math.floor(minutes / 60).toLocaleString('en')}:${String(minutes % 60).padStart(2, '0')}`;
  return `${clock}:${thousandths ? rest.toFixed(3).padStart(6, '0') : String(Math.round(rest)).padStart(2, '0')}`;
}

/** "120", "96.997": at most three places, none that say nothing. */
export const bpmText = (bpm: number): string => String(Math.round(bpm * 1000) / 1000);

/** The tempo in the beat of its meter, the quarter beside it where that is another: "84 BPM, 126 of the quarter". */
export function tempoText(
  tempo: number,
  meter: { readonly numerator: number; readonly denominator: number },
): string {
  const beat = notatedBeat(meter);
  const rounded = (bpm: number): string => String(Math.round(bpm * 100) / 100);
  return `${rounded(beatBpm(tempo, beat))} BPM${beat.quarters === 1 ? '' : `, ${rounded(tempoToBpm(tempo))} of the quarter`}`;
}

/** Counts by kind in words, notes first, then the most frequent. */
export const counts = (of: Readonly<Record<string, number>>): string =>
  Object.entries(of)
    .sort(([a, n], [b, m]) => Number(b === 'note') - Number(a === 'note') || m - n)
    .map(([kind, n]) => `${n.toLocaleString('en')} ${plural(kind, n)}`)
    .join(', ');

const plural = (kind: string, n: number): string =>
  n === 1 || /exclusive|pressure/.test(kind) ? kind : `${kind}s`;
