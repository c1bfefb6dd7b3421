import { describe, expect, it } from 'vitest';
import { demoFiles } from '../../../demo/files.ts';
import { metByNotes } from '../../../tests/support/in-force-at-notes.ts';
import { readSmf } from '../../smf/read.ts';
import { songsFromSmf } from '../../song/from-smf.ts';
import { runStep } from '../../operations/run.ts';
import { moveOf } from '../../timing/time-map.ts';
import { barsOf } from './laid-out.ts';

/** The law of arrange-laws.test.ts over every demo file, with the steps that people take. */
describe('bars of the demo’s files', () => {
  it.each(demoFiles.map((f) => [f.name, f] as const))('%s', (name, file) => {
    const read = readSmf(file.bytes());
    if (!read.ok) throw new Error(read.problem.code);
    const song = songsFromSmf(read.value.smf, name)[0]!;
    const was = new Map(
      metByNotes(song, undefined, true).map((m) => [
        `${m.track} ${m.channel} ${m.key} ${m.velocity} ${m.atTick}`,
        m.words,
      ]),
    );
    const { bars } = barsOf(song);
    const third = Math.max(2, Math.floor(bars / 3));
    const some = { from: third, to: Math.min(bars, third + 3) };
    const scope = { tracks: 'all', bars: some };
    const order = [some, { from: 1, to: third - 1 }, some];
    for (const [operation, settings, its] of [
      ['bars.cut', {}, scope],
      ['bars.cut', {}, { tracks: 'all', bars: { from: 1, to: 1 } }],
      ['bars.insert', { before: third, bars: 2 }, { tracks: 'all' }],
      ['bars.move', { before: 1 }, scope],
      ['bars.repeat', { times: 2 }, scope],
      ['bars.reverse', {}, scope],
      ['bars.order', { order }, { tracks: 'all' }],
    ] as const) {
      const done = runStep(song, { operation, settings, scope: its });
      if (!done.ok) throw new Error(`${operation}: ${done.problem.code}`);
      const { moves, song: after, report } = done.value;
      expect(report.told?.join() ?? '').not.toContain('could not be put back');
      let met = 0;
      for (const m of metByNotes(after, undefined, true)) {
        const piece = moveOf(moves, m.track).findLast((p) => p.to <= m.atTick)!;
        const old = piece.from + m.atTick - piece.to;
        const words = was.get(`${m.track} ${m.channel} ${m.key} ${m.velocity} ${old}`);
        // One that is struck anew behind an edge sounded there.
        if (words === undefined) expect(old, `${operation} at ${m.atTick}`).toBe(piece.from);
        else expect(m.words, `${operation} at ${m.atTick}`).toBe(words);
        met++;
      }
      expect(met).toBeGreaterThan(0);
    }
  });
});
