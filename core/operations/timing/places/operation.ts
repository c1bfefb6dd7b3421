import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { meta } from '../../../smf/events.ts';
import { defineOperation } from '../../operation.ts';
import {
  editMap,
  keyEvent,
  meterEvent,
  musicSetting,
  tempoEvent,
  withMusic,
} from '../../../edit/edit-map.ts';
import { editMarks, markKindNames, sectionMarks } from '../../../edit/edit-marks.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { fastestBpm, slowestBpm } from '../../../units/units.ts';

const tick = z.int().min(0).max(1_000_000_000_000);
const most = 20_000;
const mark = z.strictObject({
  atTick: tick,
  kind: z.enum(markKindNames).default('marker'),
  text: z.string().min(1).max(500),
});
const denominators = [1, 2, 4, 8, 16, 32, 64, 128] as const;

const nameOf = (m: {
  readonly kind: string;
  readonly atTick: number;
  readonly text: string;
}): string => `${m.kind} ${m.atTick} ${m.text}`;

export const timingPlaces = defineOperation({
  id: 'timing.places',
  version: 1,
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
    music: musicSetting,
  }),
  byHand: true,
  apply(song, { marks, tempos, meters, keys, sections, instead, music }) {
    const there = new Set([
      ...tempos.map((t) => `${meta.tempo} ${t.atTick}`),
      ...meters.map((m) => `${meta.timeSignature} ${m.atTick}`),
      ...keys.map((k) => `${meta.keySignature} ${k.atTick}`),
    ]);
    const listedTypes = [
      ...(tempos.length > 0 ? [meta.tempo] : []),
      ...(meters.length > 0 ? [meta.timeSignature] : []),
      ...(keys.length > 0 ? [meta.keySignature] : []),
    ];
    const whole = new Set<number>(instead ? listedTypes : []);
    const added = [
      ...meters.map((m) => meterEvent(m.atTick, m.numerator, m.denominator)),
      ...keys.map((k) => keyEvent(k.atTick, k.sharps, k.minor)),
      ...tempos.map((t) => tempoEvent(t.atTick, Math.round(60_000_000 / t.bpm))),
    ];
    const mapped = withMusic(
      song,
      editMap(song, (type, at) => whole.has(type) || there.has(`${type} ${at}`), added, 'place'),
      music,
    );
    const timing = timingOf(mapped.song);
    const placed = new Set(
      marks.flatMap((m) =>
        instead ? [`${m.kind} ${m.atTick}`, m.kind] : [`${m.kind} ${m.atTick}`],
      ),
    );
    // What stands as the list says stays where it is, in whatever track.
    const standing = [...timing.markers, ...timing.cuePoints, ...timing.texts];
    const [listed, had] = [marks, standing].map((list) => new Set(list.map(nameOf))) as [
      Set<string>,
      Set<string>,
    ];
    const spans = new Set(sections.map((s) => `${s.name} ${s.fromTick}`));
    const gone = [
      ...standing.filter(
        (m) =>
          (placed.has(`${m.kind} ${m.atTick}`) || placed.has(m.kind)) && !listed.has(nameOf(m)),
      ),
      ...timing.sections
        .filter((s) => (instead && sections.length > 0) || spans.has(`${s.name} ${s.fromTick}`))
        .flatMap((s) => s.marks),
    ];
    const come = [
      ...marks.filter((m) => !had.has(nameOf(m))).map((m) => ({ ...m, travels: true })),
      ...sections.flatMap((s) => sectionMarks({ ...s, travels: true })),
    ];
    const marked = editMarks(mapped.song, gone, come, { kind: 'place' });
    if (!marked.ok) return marked;
    const changes = [...mapped.changes, ...marked.value.changes];
    return ok({
      song: marked.value.song,
      report: {
        changes,
        skipped:
          changes.length === 0 ? [{ why: 'Every place of the list stands there already.' }] : [],
      },
      ...(mapped.moves ? { moves: mapped.moves } : {}),
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
