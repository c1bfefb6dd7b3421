import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { mapAlone } from '../handoff/map-alone.ts';
import { meta, metaEvent } from '../smf/events.ts';
import { summariseSong } from '../song/song-summary.ts';
import type { Song } from '../song/song.ts';
import { mapMeaning } from '../../tests/support/map-meaning.ts';
import { mappedSong } from '../../tests/support/map-steps.ts';
import { songOf, take } from '../../tests/support/songs.ts';
import { mapsOf, type TimedSong } from '../song/maps.ts';
import { readList } from './lists.ts';
import { listCsv } from './map-csv.ts';

const viewOf = (song: Song): TimedSong =>
  ({ division: song.division, timing: summariseSong(song).timing }) as unknown as TimedSong;
const empty = songOf([metaEvent(384 * 40, meta.endOfTrack)]);
const csvOf = (song: Song): Uint8Array =>
  ((view) => new TextEncoder().encode(listCsv(view, mapsOf(view))))(viewOf(song));

describe('a map travels alone, exactly: tempos to the microsecond, sections, meters, keys and marks', () => {
  const midiOf = (song: Song): Uint8Array =>
    ((made) => (made.ok ? made.value : new Uint8Array(0)))(mapAlone(song));

  it.each([
    ['CSV', 'map.csv', csvOf],
    ['MIDI', 'map.mid', midiOf],
  ] as const)('as %s, into an empty song and in place of another map', (_, name, written) => {
    fc.assert(
      fc.property(mappedSong, mappedSong, (song, other) => {
        for (const into of [empty, other]) {
          const view = viewOf(into);
          const { faults, ...settings } = readList(
            { name, bytes: written(song) },
            view,
            mapsOf(view),
            true,
          );
          expect(faults).toEqual([]);
          const taken = mapMeaning(
            take(into, 'timing.places', { ...settings, instead: true }).song,
          ) as Record<string, unknown[]>;
          // What the list has none of is left as it was.
          const wanted = Object.entries(mapMeaning(song) as Record<string, unknown[]>).filter(
            ([kind, list]) => into === empty || (list.length > 0 && kind !== 'meters'),
          );
          for (const [kind, list] of wanted) expect([kind, taken[kind]]).toEqual([kind, list]);
        }
      }),
      { seed: 92, numRuns: scaleRuns(120) },
    );
  });
});

describe('lists of any content', () => {
  const cell = fc.oneof(
    fc.constantFrom(
      'marker',
      'tempo',
      'meter',
      'key',
      'section',
      'cue point',
      '1.1',
      '3.2.10',
      '999',
      '0',
      '-1',
      '90',
      '4/4',
      '5/3',
      '0/4',
      'D minor',
      '1:02.5',
      '01:00:00:00',
      '',
    ),
    fc.string({ maxLength: 8 }),
  );
  const csv = fc
    .tuple(
      fc.constantFrom('kind,position,value,end', 'type;bar;text', 'time\tname', 'timecode,label'),
      fc.array(fc.array(cell, { maxLength: 5 }), { maxLength: 12 }),
    )
    .map(([head, rows]) => {
      const mark = /[,;\t]/.exec(head)![0];
      return {
        rows,
        text: [
          head,
          ...rows.map((row) => row.map((c) => `"${c.replaceAll('"', '""')}"`).join(mark)),
        ].join('\n'),
      };
    });

  it('are taken or named, line by line: as many as there are', () => {
    fc.assert(
      fc.property(csv, mappedSong, (list, song) => {
        const view = viewOf(song);
        const { faults, ...read } = readList(
          { name: 'x.csv', bytes: new TextEncoder().encode(list.text) },
          view,
          mapsOf(view),
          false,
        );
        const taken = Object.values(read).reduce((n, of) => n + of.length, 0);
        // A line without a word says nothing; a fault beyond the last line is none.
        expect(taken + faults.length).toBe(
          list.rows.filter((row) => row.some((c) => c.trim() !== '')).length,
        );
        expect(new Set(faults.map((f) => f.line)).size).toBe(faults.length);
      }),
      { seed: 93, numRuns: scaleRuns(300) },
    );
  });

  it('never stop the page, whatever bytes they are', () => {
    const view = viewOf(empty);
    fc.assert(
      fc.property(
        fc.constantFrom('x.csv', 'x.edl', 'x.mid', 'x.txt'),
        fc.uint8Array({ maxLength: 300 }),
        (name, bytes) => {
          expect(
            readList({ name, bytes }, view, mapsOf(view), true).faults.every(
              (f) => f.why.length > 0,
            ),
          ).toBe(true);
        },
      ),
      { seed: 94, numRuns: scaleRuns(400) },
    );
  });
});
