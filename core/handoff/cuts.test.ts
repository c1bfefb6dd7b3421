import { describe, expect, it } from 'vitest';
import { controller, note, songOf, take } from '../../tests/support/songs.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { meta, metaEvent } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import { notesOf } from '../song/notes.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { readSmf } from '../smf/read.ts';
import type { Song } from '../song/song.ts';
import { makeFile, planHandoff } from './handoff.ts';
import type { HandoffAsked } from './settings.ts';

/** A bar of 4/4 is 384 ticks: bars 1 to 8, the first two empty; drums of two keys on channel 10. */
const song: Song = {
  ...songOf(
    [metaEvent(0, meta.trackName, encodeText('Map')), metaEvent(3072, meta.endOfTrack)],
    [...note(768, 96, 60), ...note(2000, 96, 62)],
    [...note(800, 20, 36, 80, 9), ...note(900, 20, 38, 80, 9), ...note(2304, 20, 36, 80, 9)],
  ),
  title: 'Song',
};
const sectioned = (travels: boolean): Song =>
  [
    ['Intro', 1, 4],
    ['Verse', 5, 6],
  ].reduce(
    (s, [name, bar, lastBar]) => take(s, 'timing.section', { name, bar, lastBar, travels }).song,
    song,
  );

function handed(of: Song, asked: HandoffAsked) {
  const planned = planHandoff(of, asked);
  if (!planned.ok) throw new Error(JSON.stringify(planned.problem));
  const files = planned.value.plan.files.map((file) => {
    const made = makeFile(planned.value, file, { received: of, asRead: of });
    if (!made.ok) throw new Error(made.problem.code);
    expect(made.value.proof.differences).toEqual([]);
    const read = readSmf(made.value.bytes);
    if (!read.ok) throw new Error(read.problem.code);
    const [back] = songsFromSmf(read.value.smf, 'x.mid');
    const notes = back!.tracks.map((t) => notesOf(t.events).count).filter((n) => n > 0);
    return { name: made.value.name, notes };
  });
  return { files, notes: planned.value.notes };
}
const refused = (asked: HandoffAsked): string => {
  const planned = planHandoff(song, asked);
  return planned.ok ? 'planned' : planned.problem.code;
};

describe('where a song is divided', () => {
  it('sections that are kept here and not sent divide it as well as those that are', () => {
    for (const travels of [true, false])
      expect(handed(sectioned(travels), { divide: 'sections' }).files).toEqual([
        { name: 'Song 01 Intro.mid', notes: [1, 2] },
        { name: 'Song 02 Verse.mid', notes: [1] },
      ]);
  });

  it('a section begins where it begins, also where bars before the music are not wanted', () => {
    const { files } = handed(sectioned(true), { divide: 'sections', edges: { leadIn: false } });
    expect(files.map((f) => f.name)).toEqual(['Song 01 Intro.mid', 'Song 02 Verse.mid']);
  });

  it('bars that lie in no section that leaves are named, within the bars that were to leave', () => {
    const notes = (asked: HandoffAsked): string => handed(sectioned(true), asked).notes.join(' ');
    expect(notes({ divide: 'sections' })).toContain('not sent: bars 7 to 8');
    expect(notes({ divide: 'sections', scope: { bars: { from: 4, to: 7 } } })).toContain(
      'not sent: bars 4, 7',
    );
  });

  it('a file a track is none of a track without notes, which is told, unless that was chosen', () => {
    const moves = { ...song.tracks[0]!, id: 't4', events: eventsFrom([controller(768, 1, 90)]) };
    const more = { ...song, tracks: [...song.tracks, moves], nextTrack: 5 };
    const all = handed(more, { divide: 'tracks' });
    expect(all.files.map((f) => f.name)).toEqual(['Song 01 track 2.mid', 'Song 02 track 3.mid']);
    expect(all.notes).toEqual(['track 4: nothing plays there, so no file was made.']);
    const chosen = handed(more, { divide: 'tracks', tracks: ['t3', 't4'] });
    expect(chosen.files.map((f) => f.name)).toEqual(['Song 01 track 3.mid', 'Song 02 track 4.mid']);
  });

  it('tracks that play nothing in a section are told, and so are sections in which nothing plays', () => {
    const { files, notes } = handed(sectioned(true), { divide: 'sections-tracks' });
    expect(files).toHaveLength(3);
    expect(notes.join(' ')).toContain('One file was not made: a track plays nothing in a section');
  });

  it('a group with a drum track has all of its drums, where each has a track of its own', () => {
    const groups = [{ name: 'All', tracks: ['t2', 't3'] }];
    for (const drums of ['as they are', 'each its own track'] as const)
      expect(
        handed(song, { groups, form: { drums } }).files[0]!.notes.reduce((a, b) => a + b),
      ).toBe(5);
  });

  it('a list of channels takes each drum along, and is refused where it names no track', () => {
    const channels = [{ track: 't3', channel: 4 }];
    const planned = planHandoff(song, {
      form: { drums: 'each its own track' },
      take: { channels },
    });
    if (!planned.ok) throw new Error(planned.problem.code);
    expect(planned.value.wanted.take.channels).toEqual([
      { track: 't3', channel: 4 },
      { track: 't4', channel: 4 },
    ]);
    expect(refused({ take: { channels: [{ track: 't9', channel: 4 }] } })).toBe(
      'scope-unknown-track',
    );
  });

  it('with its first note each file is as much shorter as it begins later', () => {
    const planned = planHandoff(song, { divide: 'tracks', form: { start: 'with its first note' } });
    if (!planned.ok) throw new Error(planned.problem.code);
    const ends = planned.value.plan.files.map((file) => {
      const made = makeFile(planned.value, file, { received: song, asRead: song });
      return made.ok ? made.value.extent.seconds : 0;
    });
    // 120 BPM: eight bars are 16 s; the first notes are at 4 s and, 32 ticks later, at 4 1/6 s.
    expect(ends[0]).toBeCloseTo(12, 6);
    expect(ends[1]).toBeCloseTo(12 - 1 / 6, 6);
  });
});
