import { describe, expect, it } from 'vitest';
import { independentMap } from '../../tests/support/independent-map.ts';
import { note, refusal, songOf, take } from '../../tests/support/songs.ts';
import { makeHandoff } from '../handoff/handoff.ts';
import { meta, metaEvent } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import { readSmf } from '../smf/read.ts';
import { writeSmf } from '../smf/write.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { sentSong } from '../song/lanes.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';

const marker = (tick: number, text: string, type: number = meta.marker) =>
  metaEvent(tick, type, encodeText(text));
const spans = (song: Song): [string, number, number][] =>
  timingOf(song).sections.map((s) => [s.name, s.fromTick, s.toTick]);
const sent = (song: Song): Uint8Array => {
  const made = makeHandoff(
    song,
    { received: song, asRead: song },
    { format: 1, runningStatus: true, chunks: true },
  );
  if (!made.ok) throw new Error(made.problem.code);
  expect(made.value.proof.holds).toBe(true);
  return made.value.bytes;
};
const back = (file: Uint8Array): Song => {
  const reading = readSmf(file);
  if (!reading.ok) throw new Error(reading.problem.code);
  return songsFromSmf(reading.value.smf, 'x.mid')[0]!;
};

describe('sections', () => {
  const song = songOf(
    [marker(0, 'Verse'), marker(768, 'Chorus'), metaEvent(384 * 6, meta.endOfTrack)],
    note(0, 96, 60),
  );

  it('are made of markers, each until the next, the last until the end', () => {
    const { song: after, report } = take(song, 'timing.sections');
    expect(spans(after)).toEqual([
      ['Verse', 0, 768],
      ['Chorus', 768, 384 * 6],
    ]);
    expect(timingOf(after).markers).toEqual([]);
    expect(report.changes[0]!.counts).toEqual({ section: 2 });
  });

  it('overlap, leave as ordinary markers that others read, and come back with their ends', () => {
    const twice = take(
      take(songOf([metaEvent(0, meta.trackName)]), 'timing.section', {
        name: 'A',
        bar: 2,
        lastBar: 5,
      }).song,
      'timing.section',
      { name: 'B', bar: 4, beat: 3, lastBar: 8 },
    ).song;
    const file = sent(twice);
    // 96 PPQ in 4/4: bar n begins at 384 · (n − 1); beat 3 is 192 ticks further.
    expect(independentMap(file).markers).toEqual([
      [384, 'A'],
      [3 * 384 + 192, 'B'],
      [5 * 384, 'A (end)'],
      [8 * 384, 'B (end)'],
    ]);
    expect(spans(back(file))).toEqual([
      ['A', 384, 5 * 384],
      ['B', 3 * 384 + 192, 8 * 384],
    ]);
  });

  it('of one name follow each other, and are refused where one would lie in another', () => {
    const one = take(song, 'timing.section', { name: 'Hook', bar: 1, lastBar: 2 }).song;
    expect(spans(take(one, 'timing.section', { name: 'Hook', bar: 3, lastBar: 4 }).song)).toEqual([
      ['Hook', 0, 768],
      ['Hook', 768, 1536],
    ]);
    expect(refusal(one, 'timing.section', { name: 'Hook', bar: 2, lastBar: 2 })).toBe('done');
    expect(refusal(one, 'timing.section', { name: 'Hook', bar: 2, lastBar: 4 })).toBe(
      'settings-invalid',
    );
  });

  it('are taken out whole, and an end without a beginning is an ordinary marker', () => {
    const made = take(song, 'timing.section', { name: 'Hook', bar: 1, lastBar: 2 }).song;
    expect(
      spans(take(made, 'timing.section', { name: 'Hook', bar: 1, remove: true }).song),
    ).toEqual([]);
    expect(
      timingOf(songOf([marker(0, 'Solo (end)'), marker(96, 'Solo')])).markers.map((m) => m.text),
    ).toEqual(['Solo (end)', 'Solo']);
    expect(refusal(song, 'timing.section', { bar: 5, lastBar: 4 })).toBe('settings-invalid');
  });

  it('are not undone by a marker that is set where they begin', () => {
    const made = take(song, 'timing.section', { name: 'Hook', bar: 2, lastBar: 2 }).song;
    const after = take(take(made, 'timing.marker', { bar: 2, text: 'Hit' }).song, 'timing.marker', {
      bar: 2,
      text: '',
    }).song;
    expect(spans(after)).toEqual([['Hook', 384, 768]]);
    expect(after.tracks[0]!.events.count).toBe(made.tracks[0]!.events.count);
  });
});

describe('marks', () => {
  it('that do not travel are kept through files of the store, and sent to nobody', () => {
    const song = take(songOf([marker(0, 'In')], note(0, 96, 60)), 'timing.marker', {
      bar: 1,
      beat: 2,
      text: 'Ask',
      travels: false,
    }).song;
    expect(timingOf(song).markers.map((m) => [m.text, m.travels])).toEqual([
      ['In', true],
      ['Ask', false],
    ]);
    expect(
      timingOf(back(writeSmf({ ...song, format: 1 }))).markers.map((m) => [m.text, m.travels]),
    ).toEqual([
      ['In', true],
      ['Ask', false],
    ]);
    expect(independentMap(sent(song)).markers).toEqual([[0, 'In']]);
    expect(timingOf(sentSong(song)).markers.map((m) => m.text)).toEqual(['In']);
    // Notes alone: markers stay, whether they travel or not.
    expect(timingOf(take(song, 'events.keep-notes').song).markers).toHaveLength(2);
    expect(timingOf(take(song, 'events.remove', { kinds: ['markers'] }).song).markers).toEqual([]);
  });

  it('belong to the song, or to the track they were set in', () => {
    const song = songOf([metaEvent(0, meta.trackName)], note(0, 96, 60));
    const own = take(
      song,
      'timing.marker',
      { text: 'Cue', kind: 'cue point' },
      { tracks: ['t2'] },
    ).song;
    expect(timingOf(own).cuePoints).toEqual([
      { atTick: 0, text: 'Cue', kind: 'cue point', track: 't2', travels: true },
    ]);
    expect(
      timingOf(take(song, 'timing.marker', { text: 'Word', kind: 'text' }).song).texts.map(
        (m) => m.track,
      ),
    ).toEqual(['t1']);
    expect(
      take(own, 'timing.marker', { text: '', kind: 'cue point' }, { tracks: ['t1'] }).report
        .changes,
    ).toEqual([]);
  });

  it('go from the song to a track and back where nothing else of them changes', () => {
    const song = songOf([marker(96, 'Cue')], note(0, 96, 60));
    const gone = [{ atTick: 96, text: 'Cue' }];
    const own = take(song, 'timing.marks', { gone, come: gone, into: 't2' }).song;
    expect(timingOf(own).markers).toMatchObject([{ text: 'Cue', track: 't2' }]);
    expect(timingOf(take(own, 'timing.marks', { gone, come: gone }).song).markers).toMatchObject([
      { text: 'Cue', track: 't1' },
    ]);
    expect(take(own, 'timing.marks', { gone, come: gone, into: 't2' }).report.changes).toEqual([]);
  });

  it('are moved, renamed and made another kind by hand; a text that only moves keeps its very bytes', () => {
    // Shift-JIS: サビ, as such files carry it.
    const sabi = Uint8Array.of(0x83, 0x54, 0x83, 0x72);
    const song: Song = {
      ...songOf([metaEvent(96, meta.marker, sabi), marker(0, 'A')]),
      encoding: 'Shift-JIS',
    };
    const { song: after } = take(song, 'timing.marks', {
      gone: [
        { atTick: 96, text: 'サビ' },
        { atTick: 0, text: 'A' },
      ],
      come: [
        { atTick: 192, text: 'サビ', kind: 'cue point' },
        { atTick: 0, text: 'B' },
      ],
    });
    expect(timingOf(after).cuePoints.map((m) => [m.atTick, m.text])).toEqual([[192, 'サビ']]);
    expect(timingOf(after).markers.map((m) => m.text)).toEqual(['B']);
    const { events } = after.tracks[0]!;
    expect([
      ...events.pool.bytes.subarray(
        events.pool.start[events.payload[1]!],
        events.pool.end[events.payload[1]!],
      ),
    ]).toEqual([...sabi]);
  });
});
