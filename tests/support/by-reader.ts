import { writeSmf } from '#core/smf/write.ts';
import type { Song } from '#core/song/song.ts';
import { readIndependently } from './independent.ts';

/** Note-ons as an independent reader (npm midi-file) finds them, track by track: tick and key. */
export function notesOn({ tracks, ...song }: Song, from = 0): [number, number][][] {
  const read = readIndependently(writeSmf({ ...song, tracks, format: 1 }));
  return read.tracks.slice(from).map((lines) =>
    lines.flatMap((line): [number, number][] => {
      const [, tick, status, key, velocity] =
        /^(\d+) ([89])\w([0-9a-f]{2})([0-9a-f]{2})$/.exec(line) ?? [];
      return status === '9' && velocity !== '00' ? [[Number(tick), parseInt(key!, 16)]] : [];
    }),
  );
}

/**
 * Tempos as that reader finds them, and seconds by walking over them: microseconds a quarter, 500,000
 * before the first (SMF 1.0).
 */
export function secondsIn(song: Song): (tick: number) => number {
  if (song.division.kind === 'smpte') return (tick) => tick / (25 * 8);
  const ppq = song.division.ticksPerQuarter;
  const tempos = readIndependently(writeSmf({ ...song, format: 1 }))
    .tracks.flat()
    .flatMap((line) => /^(\d+) ff51 (\d+)$/.exec(line) ?? [])
    .filter((_, n) => n % 3 !== 0)
    .map(Number);
  const points = Array.from({ length: tempos.length / 2 }, (_, n) => ({
    tick: tempos[n * 2]!,
    tempo: tempos[n * 2 + 1]!,
  })).sort((a, b) => a.tick - b.tick);
  return (tick) => {
    let [at, tempo, seconds] = [0, 500_000, 0];
    for (const point of points) {
      if (point.tick >= tick) break;
      seconds += ((point.tick - at) * tempo) / ppq / 1e6;
      [at, tempo] = [point.tick, point.tempo];
    }
    return seconds + ((tick - at) * tempo) / ppq / 1e6;
  };
}
