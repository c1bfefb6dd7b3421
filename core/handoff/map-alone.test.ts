import { expect, it } from 'vitest';
import { parseMidi } from 'midi-file';
import { independentMap } from '../../tests/support/independent-map.ts';
import { note, songOf, take } from '../../tests/support/songs.ts';
import { meta, metaEvent } from '../smf/events.ts';
import { readSmf } from '../smf/read.ts';
import { encodeText } from '../smf/text.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { mapAlone } from './map-alone.ts';

const made = (song: Song): Uint8Array => {
  const result = mapAlone(song);
  if (!result.ok) throw new Error(result.problem.code);
  return result.value;
};
const key = metaEvent(0, meta.keySignature, Uint8Array.of(2, 0));

it('has tempos, meters, keys, markers and the length of all tracks, once, and no music (reader: npm midi-file)', () => {
  const song = songOf(
    [metaEvent(0, meta.tempo, Uint8Array.of(9, 0x27, 0xc0)), key],
    [
      key,
      ...note(0, 96, 60),
      metaEvent(96, meta.marker, encodeText('Hook')),
      metaEvent(200, meta.lyric, encodeText('la')),
      metaEvent(960, meta.endOfTrack),
    ],
  );
  const file = made(song);
  expect(independentMap(file)).toEqual({
    tempos: [[0, 600_000]],
    meters: [],
    markers: [[96, 'Hook']],
    end: 960,
  });
  expect(parseMidi(file).tracks.map((t) => t.map((e) => e.type))).toEqual([
    ['trackName', 'setTempo', 'keySignature', 'marker', 'endOfTrack'],
  ]);
});

it('leaves what does not travel, and takes a timecode at a later bar along', () => {
  const kept = take(songOf([metaEvent(384 * 4, meta.endOfTrack)]), 'timing.marker', {
    text: 'Ask',
    travels: false,
  }).song;
  const file = made(take(kept, 'timing.timecode', { bar: 2, rate: '25' }).song);
  const back = songsFromSmf(readSmfOk(file), 'x.mid')[0]!;
  expect(timingOf(back).markers).toEqual([]);
  // 120 BPM: bar 2 begins at 2 s, so that bar 1 is at 00:59:58:00.
  expect(timingOf(back).smpteOffset).toMatchObject({
    hours: 0,
    minutes: 59,
    seconds: 58,
    frames: 0,
  });
  expect(timingOf(back).timecode).toMatchObject({ atTick: 384, frames: 90_000 });
});

it('bridges a time between two of its events that is too long for the format', () => {
  const song = songOf(
    [metaEvent(0, meta.trackName)],
    [
      ...note(0, 100, 60),
      metaEvent(200_000_000, meta.lyric),
      metaEvent(400_000_000, meta.marker, encodeText('Far')),
    ],
  );
  expect(readSmfOk(made(song)).tracks[0]!.events.count).toBe(4);
});

function readSmfOk(file: Uint8Array) {
  const reading = readSmf(file);
  if (!reading.ok) throw new Error(reading.problem.code);
  return reading.value.smf;
}
