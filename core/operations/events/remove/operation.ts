import { z } from 'zod';
import { meta, META, SYSEX, SYSEX_PACKET, type Events } from '../../../smf/events.ts';
import { lost } from '../../../edit/event-kinds.ts';
import { firstNotes } from '../../../edit/first-notes.ts';
import { parkedRows } from '../../../song/lanes.ts';
import { meantType } from '../../../smf/own-events.ts';
import {
  counted,
  inTracks,
  rewriteTracks,
  totalOf,
  within,
  without,
} from '../../../edit/rewrite.ts';
import { defineOperation } from '../../operation.ts';

/** Kinds of event that can be taken out of a part; notes have operations of their own. */
export const removable = [
  'programs',
  'banks',
  'controllers',
  'bend',
  'pressure',
  'system exclusive',
  'lyrics',
  'texts',
  'markers',
] as const;
type Removable = (typeof removable)[number];

const textMetas: ReadonlySet<number> = new Set([
  meta.text,
  meta.programName,
  meta.deviceName,
  meta.sequencerSpecific,
]);

/**
 * Whether an event is of one of the kinds. `controllers` are those named, or all but banks and channel mode
 * messages.
 */
function isOf(
  events: Events,
  i: number,
  kinds: ReadonlySet<Removable>,
  controllers: ReadonlySet<number>,
): boolean {
  const status = events.status[i]!;
  const first = events.data1[i]!;
  if (status === META) {
    const meant = meantType(events, i);
    if (meant === meta.lyric) return kinds.has('lyrics');
    if (meant === meta.marker || meant === meta.cuePoint) return kinds.has('markers');
    return textMetas.has(meant) && kinds.has('texts');
  }
  if (status === SYSEX || status === SYSEX_PACKET) return kinds.has('system exclusive');
  switch (status >> 4) {
    case 0xa:
    case 0xd:
      return kinds.has('pressure');
    case 0xb:
      if (first === 0 || first === 32) return kinds.has('banks') || controllers.has(first);
      return (
        controllers.has(first) ||
        (kinds.has('controllers') && controllers.size === 0 && first < 120)
      );
    case 0xc:
      return kinds.has('programs');
    case 0xe:
      return kinds.has('bend');
    default:
      return false;
  }
}

export const eventsRemove = defineOperation({
  id: 'events.remove',
  version: 2,
  title: 'Remove kinds of event',
  summary:
    'Takes programs, banks, controllers, bend, pressure, system exclusive, lyrics, texts or markers out; notes, tempo and meter stay.',
  group: 'events',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    kinds: z.array(z.enum(removable)).max(removable.length).default([]).meta({ title: 'Kinds' }),
    controllers: z.array(z.int().min(0).max(127)).max(128).default([]).meta({
      title: 'Controllers',
      description:
        'Numbers of single controllers. With "controllers" among the kinds and none named here, all of them.',
    }),
    channels: z
      .array(z.int().min(1).max(16))
      .max(16)
      .default([])
      .meta({ title: 'Channels', description: 'Only what is on these; none named, on all.' }),
    keepFirst: z.boolean().default(false).meta({
      title: 'Keep the first',
      description:
        'Leave what stands before the first note (of its channel), such as the program a part begins with.',
    }),
  }),
  apply(song, { kinds, controllers, channels, keepFirst }, scope) {
    const wanted = new Set(kinds);
    const numbers = new Set(controllers);
    const onThem = (status: number): boolean =>
      channels.length === 0 || (status < 0xf0 && channels.includes((status & 15) + 1));
    return rewriteTracks(song, scope, (events, span, track) => {
      const isParked = parkedRows(track);
      const begins = keepFirst ? firstNotes(events) : () => -1;
      const meant = (i: number): boolean =>
        isOf(events, i, wanted, numbers) &&
        onThem(events.status[i]!) &&
        events.atTick[i]! > begins(events.status[i]!);
      const kept = without(events, (i) => within(span, events, i) && meant(i) && !isParked(i));
      if (!kept) return { left: 'It holds nothing of the kind.' };
      return { events: kept, counts: lost(events, kept) };
    });
  },
  describe: (_, report) => `Removed ${counted(totalOf(report), 'event')} ${inTracks(report)}`,
  examples: [
    { says: 'Take out programs and banks', settings: { kinds: ['programs', 'banks'] } },
    { says: 'Take out reverb and chorus sends', settings: { controllers: [91, 93] } },
    {
      says: 'Only the program changes inside the piece',
      settings: { kinds: ['programs', 'banks'], keepFirst: true },
    },
  ],
});
