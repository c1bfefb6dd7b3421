import { portOf } from '../song/ports.ts';
import { eventWords } from '../song/event-words.ts';
import { indexEvents } from '../song/event-index.ts';
import { trackLabel, type Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { barTick, meterMap, positionAt, positionText } from '../timing/meter-map.ts';
import { channelNumber } from '../units/units.ts';

/** Which events of a song: those of tracks, of some bars, or just rows by track, as spans. */
export interface EventsWanted {
  readonly tracks: readonly string[];
  readonly bars?: { readonly from: number; readonly to: number } | undefined;
  readonly rows?: Readonly<Record<string, readonly (readonly [number, number])[]>> | undefined;
}

/** Lines of a list; more are counted and not written. */
const mostLines = 20_000;

/**
 * Events as a table that anything takes which takes text: a line each, tabs between position, track, port,
 * channel, what it is and its value.
 */
export function eventText(song: Song, { tracks, bars, rows }: EventsWanted): string {
  const wanted = song.tracks.filter((t) => tracks.includes(t.id));
  const meters = meterMap(timingOf(song).meters, song.division);
  const [from, to] = bars
    ? [barTick(meters, bars.from), barTick(meters, bars.to + 1)]
    : [0, Infinity];
  const columns = wanted.map((t) => t.events);
  const chosen = new Map(wanted.map((t) => [t.events, rows?.[t.id]]));
  const index = indexEvents(columns, (events, row) => {
    const spans = chosen.get(events);
    if (rows) return spans?.some(([a, b]) => row >= a && row <= b) ?? false;
    return events.atTick[row]! >= from && events.atTick[row]! < to;
  });
  const lines = ['Position\tTrack\tPort\tChannel\tWhat\tValue'];
  for (let n = 0; n < Math.min(index.count, mostLines); n++) {
    const track = wanted[index.track[n]!]!;
    const row = index.row[n]!;
    const { events } = track;
    const status = events.status[row]!;
    const { what, value } = eventWords(events, row, song.encoding);
    lines.push(
      [
        positionText(positionAt(meters, events.atTick[row]!)),
        trackLabel(song, track),
        status < 0xf0 ? portOf(events) + 1 : '',
        status < 0xf0 ? channelNumber(status & 15) : '',
        what,
        value,
      ].join('\t'),
    );
  }
  const more = index.count - mostLines;
  if (more > 0) lines.push(`and ${more.toLocaleString('en')} more`);
  return `${lines.join('\n')}\n`;
}
