import type { Events } from '#core/smf/events.ts';
import { eventBytes } from '#core/song/event-words.ts';
import type { Column } from '../../tables/use-rows.tsx';
import type { Wording } from './use-wording.ts';

/** An event that is in view: which of the listed, where it is drawn, and where it stands. */
export interface EventInView {
  readonly n: number;
  readonly top: number;
  readonly events: Events;
  readonly row: number;
  /** The track's name, or its place. */
  readonly label: string;
}

/** What stands in which column: where, when, of which track, what, its value by name, its bytes. */
export const eventColumns = (wording: Wording): readonly Column<EventInView>[] => [
  {
    id: 'place',
    heading: 'Bar.beat.tick',
    width: '110px',
    look: 'num',
    cell: ({ events, row }) => wording.position(events.atTick[row]!),
  },
  {
    id: 'time',
    heading: 'Time',
    width: '96px',
    look: 'num text-faint',
    cell: ({ events, row }) => wording.time(events.atTick[row]!),
  },
  {
    id: 'chord',
    heading: 'Chord',
    width: '70px',
    look: 'truncate text-faint',
    cell: ({ events, row }) => wording.chord(events.atTick[row]!),
  },
  {
    id: 'track',
    heading: 'Track',
    width: 'minmax(90px,170px)',
    look: 'truncate',
    cell: ({ label }) => label,
  },
  {
    id: 'channel',
    heading: 'Ch',
    width: '34px',
    align: 'right',
    look: 'num',
    cell: ({ events, row }) => channelOf(events.status[row]!),
  },
  {
    id: 'event',
    heading: 'Event',
    width: '140px',
    look: 'truncate',
    cell: ({ events, row }) => wording.words(events, row).what,
  },
  {
    id: 'value',
    heading: 'Value',
    width: 'minmax(140px,1fr)',
    look: 'truncate',
    cell: ({ events, row }) => wording.words(events, row).value,
  },
  {
    id: 'bytes',
    heading: 'Bytes',
    width: '170px',
    look: 'num truncate text-faint',
    cell: ({ events, row }) => eventBytes(events, row),
  },
];

const channelOf = (status: number): string => (status < 0xf0 ? String((status & 15) + 1) : '');
