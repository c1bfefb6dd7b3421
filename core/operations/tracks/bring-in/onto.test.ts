import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../../tests/support/scale.ts';
import { madeSong } from '../../../../tests/support/made-songs.ts';
import { controller, note, songOf } from '../../../../tests/support/songs.ts';
import { faultCount, noteFaults } from '../../../edit/note-faults.ts';
import { channelEvent, meta, metaEvent } from '../../../smf/events.ts';
import { encodeText } from '../../../smf/text.ts';
import { notesOf } from '../../../song/notes.ts';
import { trackName, type Song, type Track } from '../../../song/song.ts';
import { runStep } from '../../run.ts';
import { sourceKey } from '../../sources.ts';

const name = { original: 'a'.repeat(64), part: 1, called: 'x.mid' };

function lay(song: Song, source: Song, settings: object = {}) {
  const done = runStep(
    song,
    {
      operation: 'tracks.bring-in',
      settings: { source: name, ...settings },
    },
    new Map([[sourceKey(name), source]]),
  );
  if (!done.ok) throw new Error(JSON.stringify(done.problem));
  return { song: done.value.song, report: done.value.report };
}

/** Notes as [from, to, key], as they begin. */
function notes({ events }: Track): number[][] {
  const { on, off, count } = notesOf(events);
  return Array.from({ length: count }, (_, n) => [
    events.atTick[on[n]!]!,
    off[n] === -1 ? -1 : events.atTick[off[n]!]!,
    events.data1[on[n]!]!,
  ]).sort((a, b) => a[0]! - b[0]! || a[2]! - b[2]!);
}

const one = (how: string) => ({ onto: [{ track: 't1', to: 't1', how }] });
const named = (text: string, ...events: ReturnType<typeof note>) => [
  metaEvent(0, meta.trackName, encodeText(text)),
  ...events,
];

describe('laying a part onto a track that is there', () => {
  // Hand-worked: 96 ticks a quarter.
  const there = songOf(named('Bass', ...note(0, 192, 40, 80, 2), ...note(288, 96, 40, 80, 2)));
  const part = songOf(named('New', ...note(96, 240, 40), ...note(96, 50, 43)));

  it('merged: on its channel and under its name, what sounds of a key ends where the next of it begins', () => {
    const { song, report } = lay(there, part, one('merge'));
    expect(song.tracks).toHaveLength(1);
    expect(notes(song.tracks[0]!)).toEqual([
      [0, 96, 40],
      [96, 288, 40],
      [96, 146, 43],
      [288, 384, 40],
    ]);
    expect(
      [...song.tracks[0]!.events.status].filter((s) => s < 0xf0).every((s) => (s & 15) === 2),
    ).toBe(true);
    expect(trackName(song.tracks[0]!, 'UTF-8')).toBe('Bass');
    expect(report.changes).toMatchObject([
      {
        track: 't1',
        counts: { note: 2 },
        detail: 'New; channel 1 is 3 here; 2 notes cut short where the next of the key begins',
      },
    ]);
  });

  it('a note that begins where one of its key begins already is left, and told', () => {
    const { song, report } = lay(there, songOf(note(0, 96, 40), note(0, 96, 41)), {
      tracks: ['t1'],
      ...one('merge'),
    });
    expect(notes(song.tracks[0]!)).toEqual(notes(there.tracks[0]!));
    expect([report.changes, report.skipped]).toEqual([
      [],
      [
        {
          name: 'track 1, onto Bass',
          why: '1 note left, where one of the key begins already',
        },
      ],
    ]);
  });

  it('in place of what is there: notes and lanes of the kinds that it brings go over its span, nothing else', () => {
    const song = songOf([
      controller(0, 7, 90),
      controller(400, 7, 70),
      controller(400, 1, 5),
      ...note(0, 96, 40),
      ...note(384, 96, 41),
      ...note(480, 96, 42),
      ...note(1152, 96, 43),
    ]);
    const source = songOf([
      controller(0, 7, 100),
      ...note(0, 384, 60),
      metaEvent(768, meta.endOfTrack),
    ]);
    const { song: after, report } = lay(song, source, { at: { bar: 2 }, ...one('replace') });
    // Bar 2 is tick 384; the source is two bars long, to tick 1152 (hand-worked).
    expect(notes(after.tracks[0]!)).toEqual([
      [0, 96, 40],
      [384, 768, 60],
      [1152, 1248, 43],
    ]);
    const { events } = after.tracks[0]!;
    const controllers = [...events.status.keys()]
      .filter((i) => events.status[i]! >> 4 === 0xb)
      .map((i) => [events.atTick[i], events.data1[i], events.data2[i]]);
    expect(controllers).toEqual([
      [0, 7, 90],
      [384, 7, 100],
      [400, 1, 5],
      [1151, 7, 70],
    ]);
    expect(report.changes[0]!.detail).toBe(
      'track 1; in place of 1 controller, 2 notes; channel 1 is restored after it (1 message)',
    );
  });

  it('where notes sound, nothing is taken if that was asked', () => {
    const { song, report } = lay(there, part, one('where empty'));
    expect(song).toBe(there);
    expect(report.skipped).toEqual([{ name: 'New, onto Bass', why: 'Notes sound there.' }]);
    expect(
      notes(lay(there, part, { at: { bar: 2 }, ...one('where empty') }).song.tracks[0]!),
    ).toHaveLength(4);
  });

  it('a lane that is parked there is not laid over it, and one that the part has parked stays away', () => {
    const parked: Song = {
      ...there,
      tracks: [{ ...there.tracks[0]!, parked: ['2:7'] }],
    };
    const source = songOf([controller(0, 7, 10), ...note(96, 10, 50)]);
    const { song, report } = lay(parked, source, one('merge'));
    expect([...song.tracks[0]!.events.status].some((s) => s >> 4 === 0xb)).toBe(false);
    expect(report.changes[0]!.detail).toContain('1 event of parked lanes left');
  });

  it('a track that has its own program keeps it, and is no longer than its events for the rest behind the part', () => {
    const song = songOf([channelEvent(0, 0xc0, 33), ...note(0, 96, 40)]);
    const source = songOf([
      controller(0, 0, 1),
      channelEvent(0, 0xc0, 61),
      ...note(96, 96, 60),
      metaEvent(9600, meta.endOfTrack),
    ]);
    const { song: after, report } = lay(song, source, one('merge'));
    const { events } = after.tracks[0]!;
    const programs = [...events.status.keys()].filter((i) => events.status[i]! >> 4 === 0xc);
    expect(programs.map((i) => events.data1[i])).toEqual([33]);
    expect(events.atTick.at(-1)).toBe(192);
    expect(report.changes[0]!.detail).toContain(
      '2 program or bank messages left: it keeps its own',
    );
    // What plays no note yet is told what plays it; what plays some goes on playing as it did.
    const bare = songOf(note(0, 96, 40));
    expect(lay(bare, source, one('merge')).song.tracks[0]!.events.status).not.toContain(0xc0);
    const empty = songOf([metaEvent(96, meta.endOfTrack)]);
    expect(lay(empty, source, one('merge')).song.tracks[0]!.events.status).toContain(0xc0);
  });

  it('new tracks stand behind the one that is named; notes only are notes only', () => {
    const song = songOf(named('A', ...note(0, 9, 1)), named('B', ...note(0, 9, 1, 80, 1)));
    const source = songOf(
      named(
        'N',
        controller(0, 7, 3),
        controller(0, 11, 3),
        channelEvent(0, 0xc0, 5),
        ...note(0, 9, 1),
      ),
    );
    const bare = { controllers: false, mix: false, programs: false };
    const { song: after } = lay(song, source, { behind: 't1', take: bare });
    expect(after.tracks.map((t) => t.id)).toEqual(['t1', 't3', 't2']);
    expect(
      new Set([...after.tracks[1]!.events.status].filter((s) => s < 0xf0).map((s) => s >> 4)),
    ).toEqual(new Set([8, 9]));
    const mixed = lay(song, source, { take: { ...bare, mix: true } }).song.tracks[2]!.events;
    expect(
      [...mixed.status.keys()]
        .filter((i) => mixed.status[i]! >> 4 === 0xb)
        .map((i) => mixed.data1[i]),
    ).toEqual([7]);
  });

  it.each(['merge', 'replace', 'where empty'])(
    '%s: no note gets faulty that was not, none of another track is touched, and none begins anywhere new',
    (how) => {
      fc.assert(
        fc.property(madeSong, madeSong, fc.constantFrom(1, 2, 5), (song, other, bar) => {
          const source = { ...other, division: song.division };
          const [into, from] = [song.tracks.at(-1)!, source.tracks.at(-1)!];
          const { song: after, report } = lay(song, source, {
            tracks: [from.id],
            keep: 'seconds',
            at: { bar },
            onto: [{ track: from.id, to: into.id, how }],
          });
          const faults = ({ tracks }: Song): number =>
            tracks.reduce((sum, t) => sum + faultCount(noteFaults(t.events)), 0);
          if (faults(after) > faults(song) + faults(source))
            expect(JSON.stringify(report)).toMatch(/more than before/);
          expect(after.tracks.slice(0, -1).every((t, n) => t === song.tracks[n])).toBe(true);
          const begins = (t: Track): number => notesOf(t.events).count;
          const last = after.tracks.at(-1)!;
          expect(begins(last)).toBeLessThanOrEqual(begins(into) + begins(from));
          if (how === 'merge')
            expect(begins(last)).toBe(begins(into) + (report.changes[0]?.counts.note ?? 0));
        }),
        { seed: 83, numRuns: scaleRuns(120) },
      );
    },
  );
});
