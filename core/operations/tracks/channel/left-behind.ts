import { controllerName } from '../../../instruments/controllers.ts';
import type { Events } from '../../../smf/events.ts';
import { trackLabel, type Song, type Track } from '../../../song/song.ts';

/** Things that are named; of more their number is told. */
const mostNamed = 4;

/** What a track states, by channel: programs, bends, pressure and controllers by number; resets and modes aside. */
function statedBy({ status, data1, count }: Events): Map<number, Set<string>> {
  const stated = new Map<number, Set<string>>();
  for (let i = 0; i < count; i++) {
    const kind = status[i]! >> 4;
    if (kind < 0xb || kind > 0xe || (kind === 0xb && data1[i]! >= 120)) continue;
    const what =
      kind === 0xb
        ? controllerName(data1[i]!).toLowerCase()
        : ({ 0xc: 'program', 0xd: 'pressure', 0xe: 'pitch bend' } as const)[
            kind as 0xc | 0xd | 0xe
          ];
    const channel = status[i]! & 15;
    const own = stated.get(channel);
    if (own) own.add(what);
    else stated.set(channel, new Set([what]));
  }
  return stated;
}

/**
 * Tells of a track what others set on the channels that it leaves, and it does not set itself: it was heard
 * so, and is no more. Gathered once for all tracks of a song; undefined where there is nothing.
 */
export function leftBehind(
  song: Song,
): (track: Track, channels: readonly number[]) => string | undefined {
  const byTrack = new Map(song.tracks.map((t) => [t, statedBy(t.events)]));
  // Of each channel and thing the first two tracks that state it: one of them is another than the one that leaves.
  const first = new Map<number, Map<string, Track[]>>();
  for (const [track, stated] of byTrack) {
    for (const [channel, whats] of stated) {
      const there = first.get(channel) ?? new Map<string, Track[]>();
      first.set(channel, there);
      for (const what of whats) {
        const who = there.get(what);
        if (!who) there.set(what, [track]);
        else if (who.length < 2) who.push(track);
      }
    }
  }
  return (track, channels) => {
    const left = new Map<Track, Set<string>>();
    for (const channel of channels) {
      const own = byTrack.get(track)?.get(channel);
      for (const [what, who] of first.get(channel) ?? []) {
        const other = own?.has(what) ? undefined : who.find((t) => t !== track);
        if (other) left.set(other, (left.get(other) ?? new Set()).add(what));
      }
    }
    return left.size === 0
      ? undefined
      : `leaves behind ${list([...left].map(([other, whats]) => `${list([...whats])} of ${trackLabel(song, other)}`))}`;
  };
}

const list = (words: readonly string[]): string =>
  words.length > mostNamed
    ? `${words.slice(0, mostNamed).join(', ')} and ${words.length - mostNamed} more`
    : words.join(', ');
