import { z } from 'zod';
import { ok } from '../../problems/problems.ts';
import { meta, metaEvent } from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import { defineOperation } from '../operation.ts';
import { editMap, tempoEvent } from '../shared/edit-map.ts';

const tick = z.int().min(0).max(1_000_000_000_000);
const mark = z.strictObject({ atTick: tick, kind: z.enum(['marker', 'cue point']).default('marker'), text: z.string().min(1).max(500) });

export const timingPlaces = defineOperation({
  id: 'timing.places',
  version: 1,
  title: 'Bring in a list of places',
  summary: 'Adds markers, cue points and tempos of a list; one of the same kind that stands at the same place is replaced.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    marks: z.array(mark).max(5000).default([]).meta({ title: 'Markers and cue points' }),
    tempos: z.array(z.strictObject({ atTick: tick, bpm: z.number().min(3.577).max(60_000_000) })).max(5000).default([]).meta({ title: 'Tempos' }),
  }),
  byHand: true,
  apply(song, { marks, tempos }) {
    const typeOf = (kind: string): number => (kind === 'marker' ? meta.marker : meta.cuePoint);
    const there = new Set([...marks.map((m) => `${typeOf(m.kind)} ${m.atTick}`), ...tempos.map((t) => `${meta.tempo} ${t.atTick}`)]);
    const added = [...tempos.map((t) => tempoEvent(t.atTick, Math.round(60_000_000 / t.bpm))), ...marks.map((m) => metaEvent(m.atTick, typeOf(m.kind), encodeText(m.text)))];
    const edited = editMap(song, (type, at) => there.has(`${type} ${at}`), added, 'place');
    return ok({ song: edited.song, report: { changes: edited.changes, skipped: edited.changes.length === 0 ? [{ why: 'Every place of the list stands there already.' }] : [] } });
  },
  describe: ({ marks, tempos }) => `Brought in ${[marks.length > 0 && `${marks.length} markers`, tempos.length > 0 && `${tempos.length} tempos`].filter(Boolean).join(' and ') || 'nothing'} from a list`,
  examples: [{ says: 'Two markers', settings: { marks: [{ atTick: 0, text: 'In' }, { atTick: 96, text: 'Out' }] } }],
});
