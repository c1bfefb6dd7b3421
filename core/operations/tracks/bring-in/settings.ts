import { z } from 'zod';
import { barsOrBeats, beyondSetting } from '../../../edit/edit-map.ts';
import { rowsSetting } from '../../../edit/named-rows.ts';
import { barsSchema } from '../../../song/scope.ts';
import { sourceSchema } from '../../source-schema.ts';

const trackId = z.string().max(40);
const most = 70_000;

/** What of a part comes in beside its notes. */
export const takeSchema = z.strictObject({
  controllers: z.boolean().default(true).meta({
    title: 'Controllers, bends and pressure',
    description: 'All but those that mix.',
  }),
  mix: z
    .boolean()
    .default(true)
    .meta({ title: 'Volume, pan and sends', description: 'Controllers 7, 8, 10 and 91 to 95.' }),
  programs: z.boolean().default(true).meta({ title: 'Programs and banks' }),
  exclusive: z.boolean().default(true).meta({ title: 'System exclusive' }),
  lyrics: z.boolean().default(true).meta({ title: 'Lyrics' }),
  texts: z.boolean().default(true).meta({ title: 'Texts' }),
});
export type Take = z.infer<typeof takeSchema>;

/** What of a song's own time can be taken, in the order in which it is shown. */
export const mapKinds = [
  'tempos',
  'meters',
  'keys',
  'markers',
  'sections',
  'timecode',
] as const satisfies (keyof z.infer<typeof mapSchema>)[];
export type MapKind = (typeof mapKinds)[number];

const way = (title: string) => z.enum(['none', 'replace', 'add']).default('none').meta({ title });
export const mapSchema = z
  .strictObject({
    tempos: way('Tempos'),
    meters: way('Meters'),
    keys: way('Keys'),
    markers: way('Markers and cue points'),
    sections: way('Sections'),
    timecode: way('Timecode'),
  })
  .meta({
    title: 'The map',
    description:
      'Replace: from the place on, in the place of this song’s. Add: tempos, meters, keys and timecode where this song states none; markers and sections that do not stand there already.',
  });
export type MapTaken = z.infer<typeof mapSchema>;

export const atSchema = z
  .union([
    z.strictObject({ own: z.literal(true) }),
    z.strictObject({ bar: z.int().min(1).max(1_000_000_000) }),
    z.strictObject({ timecode: z.string().max(20) }),
  ])
  .meta({
    title: 'At',
    description:
      'Where its beginning falls: a bar, or a timecode (hh:mm:ss:ff) of a song that states one. Own: its bars stay the bars they are.',
    offers: 'landing-place',
  });

const ontoSchema = z.strictObject({
  track: trackId.meta({ title: 'Track of the source' }),
  to: trackId.meta({ title: 'Track of this song' }),
  how: z.enum(['merge', 'replace', 'where empty']).default('merge').meta({
    title: 'How',
    description:
      'Merge: beside what is there. Replace: in place of what of its kinds is there. Where empty: not at all where notes sound.',
  }),
});
export type Onto = z.infer<typeof ontoSchema>;

export const bringInSettings = z.strictObject({
  source: sourceSchema,
  tracks: z
    .union([z.enum(['all', 'none']), z.array(trackId).min(1).max(most)])
    .default('all')
    .meta({
      title: 'Tracks',
      description: 'all, none, or ids of the tracks that are taken.',
      offers: 'source-tracks',
    }),
  bars: barsSchema.nullable().default(null).meta({
    title: 'Bars of it',
    description: 'First and last bar that are taken, both included. Empty: all.',
    offers: 'bars',
  }),
  edges: z.enum(['cut', 'with their beginning']).default('with their beginning').meta({
    title: 'Notes over an edge',
    description:
      'Of bars that are taken. “cut”: notes end with the bars, and those that sound as they begin are struck there. “with their beginning”: as long as they are, from where they begin.',
  }),
  rows: rowsSetting.nullable().default(null).meta({
    title: 'Events of it',
    description:
      'Just these events, and the ends of notes that are among them: for each track id of the source, spans of rows, first and last, from 0. Their place is counted from the bar in which the first of them stands.',
    offers: 'onto',
  }),
  at: atSchema.default({ own: true }),
  keep: z.enum(['bars', 'seconds']).default('bars').meta({
    title: 'Keep',
    description:
      'Bars: as it is counted, in quarter notes from there on. Seconds: as it sounded, over both tempo maps.',
  }),
  take: takeSchema.default(takeSchema.parse({})).meta({ title: 'Beside the notes' }),
  map: mapSchema.default(mapSchema.parse({})),
  music: barsOrBeats.meta({
    title: 'The music of this song',
    description:
      'Where tempos or meters are taken. Bars: what is here begins on the bar and beat where it did. Beats: it stays, and the bar lines move. Seconds: it stays where it sounds.',
  }),
  beyond: beyondSetting,
  onto: z.array(ontoSchema).max(most).default([]).meta({
    title: 'Onto tracks of this song',
    offers: 'onto',
    description: 'Those that are not named become tracks of their own.',
  }),
  behind: trackId.nullable().default(null).meta({
    title: 'New tracks behind',
    offers: 'onto',
    description: 'Id of a track of this song. Empty: at the end.',
  }),
  channels: z.enum(['free where taken', 'as they are']).default('free where taken').meta({
    title: 'Channels',
    description:
      'Free where taken: parts on a channel that this song plays on get one that is free; drums stay on 10.',
  }),
});
export type BringIn = z.infer<typeof bringInSettings>;

/** Version 1 had a bar, or none, and took nothing of the map; version 2 knew no edges; up to 3 bars were beats. */
export function upgradeBringIn(
  { bar = null, ...settings }: Readonly<Record<string, unknown>>,
  from: number,
): Record<string, unknown> {
  const music = settings.music === 'keeps its seconds' ? settings.music : 'keeps its beats';
  const placed = from > 1 ? settings : { ...settings, at: bar === null ? { own: true } : { bar } };
  return { ...placed, music };
}
