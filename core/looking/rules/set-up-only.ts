import { programNames } from '../../instruments/general-midi.ts';
import { setsUpOnly } from '../../edit/empty.ts';
import { countKinds } from '../../edit/event-kinds.ts';
import type { Events } from '../../smf/events.ts';
import { channelsIn } from '../../units/channel-bits.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** Tracks without notes that only set something up: for channels on which nobody plays they are left over. */
export function setUpOnly({ tracks, parts }: LookedSong): Noticed[] {
  if (parts.length === 0) return [];
  const setUp = tracks.slice(1).filter((t) => t.look.setsUp !== null);
  if (setUp.length === 0) return [];
  const playersOf = playersByChannels(parts);
  return setUp.map((t): Noticed => {
    const channels = channelsIn(t.look.channels.all);
    const players = playersOf(t.look.channels.all);
    const where = channels.map((c) => c + 1).join(', ');
    return {
      title: `${t.label} has no notes and sets up channel ${where}: ${t.look.setsUp}`,
      why:
        players.length > 0
          ? `${players.length > mostNamed ? `${players.length.toLocaleString('en')} parts` : players.map((p) => p.label).join(' and ')} ${players.length === 1 ? 'plays' : 'play'} on it: a program that leaves out tracks without notes loses what they need.`
          : 'Nobody plays there: it takes up a row and an instrument at the other end.',
      tracks: [t.id],
      count: t.look.events,
      sure: 'certain',
      settle:
        players.length > 0
          ? []
          : [
              {
                title: `Remove ${t.label}`,
                operation: 'tracks.remove',
                settings: {},
                scope: onTracks(t.id),
              },
            ],
    };
  });
}

/** More parts than these are not named. */
const mostNamed = 3;

/** Which parts are on any of some channels, given as bits; told once for all tracks of the same channels. */
function playersByChannels(parts: LookedSong['parts']): (channels: number) => LookedTrack[] {
  const told = new Map<number, LookedTrack[]>();
  return (channels) => {
    const known = told.get(channels);
    if (known) return known;
    const players = parts.filter((part) => (part.look.channels.all & channels) !== 0);
    told.set(channels, players);
    return players;
  };
}

const untold: ReadonlySet<string> = new Set(['name', 'other']);

/**
 * What a track without notes sets up: its first program by name, and how many of what else; null where it
 * does more, or nothing.
 */
export function whatItSets(events: Events): string | null {
  if (!setsUpOnly(events)) return null;
  const first = events.status.findIndex((s) => s >> 4 === 0xc);
  const rest = Object.entries(countKinds(events)).filter(
    ([kind, n]) => !untold.has(kind) && (kind !== 'program' || n > 1),
  );
  return [
    ...(first === -1 ? [] : [programNames[events.data1[first]!]!]),
    ...rest.map(([kind, n]) => `${n.toLocaleString('en')} ${kind}${n === 1 ? '' : 's'}`),
  ].join(', ');
}
