import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { meta } from '../../../smf/events.ts';
import { defineOperation } from '../../operation.ts';
import { mergeChanges, placedBy, withListedMarks, withMetersOf } from './listed.ts';
import { anchorSetting } from '../../../edit/anchor.ts';
import {
  barsOrBeats,
  beyondSetting,
  editMap,
  keyEvent,
  tempoEvent,
  withMusic,
} from '../../../edit/edit-map.ts';
import { musicOf } from '../../../edit/meter-music.ts';
import { markKindNames } from '../../../edit/edit-marks.ts';
import { fastestBpm, slowestBpm } from '../../../units/units.ts';

const tick = z.int().min(0).max(1_000_000_000_000);
const most = 20_000;
const mark = z.strictObject({
  atTick: tick,
  kind: z.enum(markKindNames).default('marker'),
  text: z.string().min(1).max(500),
  anchor: anchorSetting,
});
const denominators = [1, 2, 4, 8, 16, 32, 64, 128] as const;

export const timingPlaces = defineOperation({
  id: 'timing.places',
  version: 2,
  title: 'Bring in a list of places',
  summary:
    'Adds what a list holds: markers, sections, tempos, meters and keys; one of the same kind that stands at the same place is replaced, or all of the kinds that the list has.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    marks: z.array(mark).max(most).default([]).meta({ title: 'Markers, cue points and texts' }),
    tempos: z
      .array(z.strictObject({ atTick: tick, bpm: z.number().min(slowestBpm).max(fastestBpm) }))
      .max(most)
      .default([])
      .meta({ title: 'Tempos' }),
    meters: z
      .array(
        z.strictObject({
          atTick: tick,
          numerator: z.int().min(1).max(255),
          denominator: z.literal(denominators),
        }),
      )
      .max(most)
      .default([])
      .meta({ title: 'Meters' }),
    keys: z
      .array(z.strictObject({ atTick: tick, sharps: z.int().min(-7).max(7), minor: z.boolean() }))
      .max(most)
      .default([])
      .meta({ title: 'Keys' }),
    sections: z
      .array(z.strictObject({ name: z.string().min(1).max(200), fromTick: tick, toTick: tick }))
      .max(most)
      .default([])
      .meta({ title: 'Sections' }),
    instead: z.boolean().default(false).meta({
      title: 'In place of what is there',
      description: 'Of each kind that the list has, nothing else stays.',
    }),
    music: barsOrBeats,
    beyond: beyondSetting,
  }),
  byHand: true,
  // In version 1 bars were beats.
  upgrade: ({ music, ...settings }) => ({
    ...settings,
    music: music === 'keeps its seconds' ? music : 'keeps its beats',
  }),
  apply(song, asked) {
    const { instead, beyond } = asked;
    const music = musicOf(song, asked.music);
    const metered = withMetersOf(song, asked, { music, beyond });
    const { marks, tempos, keys, sections } = placedBy(metered.placed, asked);
    const there = new Set([
      ...tempos.map((t) => `${meta.tempo} ${t.atTick}`),
      ...keys.map((k) => `${meta.keySignature} ${k.atTick}`),
    ]);
    const listedTypes = [
      ...(tempos.length > 0 ? [meta.tempo] : []),
      ...(keys.length > 0 ? [meta.keySignature] : []),
    ];
    const whole = new Set<number>(instead ? listedTypes : []);
    const added = [
      ...keys.map((k) => keyEvent(k.atTick, k.sharps, k.minor)),
      ...tempos.map((t) => tempoEvent(t.atTick, Math.round(60_000_000 / t.bpm))),
    ];
    const timed = editMap(
      metered.song,
      (type, at) => whole.has(type) || there.has(`${type} ${at}`),
      added,
      'place',
    );
    const mapped = withMusic(
      song,
      { song: timed.song, changes: mergeChanges(metered.changes, timed.changes) },
      music === 'keeps its seconds' ? music : 'keeps its bars',
    );
    const marked = withListedMarks(mapped.song, { marks, sections, instead });
    if (!marked.ok) return marked;
    const changes = [...mapped.changes, ...marked.value.changes];
    return ok({
      song: marked.value.song,
      report: {
        changes,
        skipped:
          changes.length === 0 ? [{ why: 'Every place of the list stands there already.' }] : [],
        ...(metered.told.length > 0 ? { told: metered.told } : {}),
      },
      ...((moves) => (moves ? { moves } : {}))(metered.moves ?? mapped.moves),
    });
  },
  describe: ({ marks, tempos, meters, keys, sections, instead }) => {
    const said = (
      [
        [marks, 'marker'],
        [sections, 'section'],
        [tempos, 'tempo'],
        [meters, 'meter'],
        [keys, 'key'],
      ] as const
    )
      .filter(([list]) => list.length > 0)
      .map(([list, word]) => `${list.length} ${word}${list.length === 1 ? '' : 's'}`);
    return `Brought in ${said.join(', ') || 'nothing'} from a list${instead ? ', in place of what was there' : ''}`;
  },
  examples: [
    {
      says: 'Two markers',
      settings: {
        marks: [
          { atTick: 0, text: 'In' },
          { atTick: 96, text: 'Out' },
        ],
      },
    },
    {
      says: 'A section in a waltz',
      settings: {
        meters: [{ atTick: 0, numerator: 3, denominator: 4 }],
        sections: [{ name: 'A', fromTick: 0, toTick: 96 }],
      },
    },
  ],
});
