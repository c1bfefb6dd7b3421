import { z } from 'zod';

const taken = (title: string, description?: string) =>
  z
    .boolean()
    .default(true)
    .meta({ title, ...(description ? { description } : {}) });

export const markForms = ['as they are', 'markers', 'cue points', 'texts', 'none'] as const;

/** What of a song leaves, kind by kind: everything, if nothing is said. */
export const takeSchema = z
  .strictObject({
    tempo: taken('Tempo map', 'Without it a file plays at the tempo of the receiver, in its bars.'),
    meters: taken('Meters'),
    keys: taken('Keys'),
    markers: z.enum(markForms).default('as they are').meta({
      title: 'Markers and cue points',
      description: 'Only those that travel; the ends of sections go as they go.',
    }),
    sections: taken('Sections'),
    texts: taken('Texts'),
    lyrics: taken('Lyrics'),
    timecode: taken('Start timecode'),
    copyright: taken('Copyright'),
    programs: taken('Programs and banks'),
    volume: taken('Volume'),
    pan: taken('Pan'),
    reverb: taken('Reverb send'),
    chorus: taken('Chorus send'),
    controllers: taken('Other controllers', 'Where bends go, their range goes with them.'),
    without: z
      .array(z.int().min(0).max(119))
      .max(120)
      .default([])
      .meta({ title: 'Controllers left out', description: 'By their numbers, whatever they are.' }),
    bend: taken('Pitch bend'),
    pressure: taken('Pressure', 'Of channels and of keys.'),
    exclusive: taken('System exclusive'),
    specific: taken('Sequencer-specific events'),
    ports: taken('Channel prefixes and ports'),
    trackNames: taken('Track names'),
    instrumentNames: taken('Instrument names', 'And the names of programs and devices.'),
    channels: z
      .union([
        z.literal('as they are'),
        z.literal('one each'),
        z
          .array(z.strictObject({ track: z.string().max(40), channel: z.int().min(1).max(16) }))
          .max(70_000),
      ])
      .default('as they are')
      .meta({
        title: 'Channels',
        description:
          'One each: every track of a file on a channel of its own, 10 left to the drums. A list puts the tracks it names on the channels it says.',
      }),
  })
  .meta({ title: 'In or out' });

export type Leaving = z.infer<typeof takeSchema>;

/** What is left of a song without what notes are heard with, and without words but names: as the map alone leaves. */
export const nothingHeard = {
  texts: false,
  lyrics: false,
  programs: false,
  volume: false,
  pan: false,
  reverb: false,
  chorus: false,
  controllers: false,
  bend: false,
  pressure: false,
  exclusive: false,
  specific: false,
  ports: false,
} as const satisfies Partial<Leaving>;
