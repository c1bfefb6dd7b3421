import type { SongFacts } from '#core/handoff/receiver/settings-for.ts';
import type { SongView } from './songs.ts';

/** What of a song the settings for a receiver depend on, as it is shown. */
export function factsOfView({ division, timing, tracks, receivedFormat }: SongView): SongFacts {
  const { tempos } = timing;
  return {
    division,
    format: receivedFormat as SongFacts['format'],
    sections: timing.sections.length,
    temposApart: tempos.reduce(
      (least, t, i) =>
        i === 0 || t.microsecondsPerQuarter === tempos[i - 1]!.microsecondsPerQuarter
          ? least
          : Math.min(least, t.seconds - tempos[i - 1]!.seconds),
      Infinity,
    ),
    tracks: tracks.map(({ id, channels, instrument }) => ({
      id,
      channels: channels.map((c) => c - 1),
      kit: instrument?.drums === true,
    })),
  };
}
