import iconv from 'iconv-lite';
import { describe, expect, it } from 'vitest';
import { makeHandoff } from '../handoff/handoff.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, payloadOf } from '../smf/events.ts';
import type { Smf } from '../smf/smf.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { nameIndex, trackName, type Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { runStep } from './run.ts';

/** Bytes of a text by an independent library. */
const bytes = (text: string, encoding: string): Uint8Array =>
  Uint8Array.from(iconv.encode(text, encoding));
const named = (...names: Uint8Array[]): Song => {
  const note = [channelEvent(0, 0x90, 60, 80), channelEvent(96, 0x80, 60, 64)];
  const smf: Smf = {
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    tracks: names.map((name, n) => ({
      events: eventsFrom([
        metaEvent(0, meta.trackName, name),
        ...(n === 0 ? [metaEvent(384, meta.marker, bytes('サビ', 'Shift-JIS'))] : note),
        metaEvent(960, meta.endOfTrack),
      ]),
    })),
  };
  return songsFromSmf(smf, 'made.mid')[0]!;
};
const step = (song: Song, operation: string, settings: object, tracks?: string[]) => {
  const result = runStep(song, {
    operation,
    settings: settings as Record<string, unknown>,
    ...(tracks ? { scope: { tracks } } : {}),
  });
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
};
const nameBytes = (song: Song, n: number): Uint8Array =>
  payloadOf(song.tracks[n]!.events, nameIndex(song.tracks[n]!.events));

describe('issue 10.9: texts are read and written in the song’s encoding', () => {
  const song = named(bytes('曲', 'Shift-JIS'), bytes('ギター', 'Shift-JIS'));

  it('renaming writes in it where it can hold the name, else in UTF-8; both read back', () => {
    expect(song.encoding).toBe('Shift-JIS');
    const drums = step(song, 'tracks.rename', { name: 'ドラム' }, ['t2']).song;
    expect(nameBytes(drums, 1)).toEqual(bytes('ドラム', 'Shift-JIS'));
    expect(trackName(drums.tracks[1]!, drums.encoding)).toBe('ドラム');
    const drum = step(song, 'tracks.rename', { name: 'Drum 🥁' }, ['t2']).song;
    expect(nameBytes(drum, 1)).toEqual(Uint8Array.from(new TextEncoder().encode('Drum 🥁')));
    expect(trackName(drum.tracks[1]!, drum.encoding)).toBe('Drum 🥁');
    expect(nameBytes(step(song, 'song.name', { title: '朝の歌' }).song, 0)).toEqual(
      bytes('朝の歌', 'Shift-JIS'),
    );
  });

  it('so do markers', () => {
    const marked = step(song, 'timing.marker', { bar: 3, text: 'イントロ' }).song;
    const [first] = marked.tracks;
    const texts = Array.from({ length: first!.events.count }, (_, i) => i)
      .filter((i) => first!.events.data1[i] === meta.marker)
      .map((i) => payloadOf(first!.events, i));
    expect(texts).toContainEqual(bytes('イントロ', 'Shift-JIS'));
    expect(
      timingOf(marked)
        .markers.map((m) => m.text)
        .sort(),
    ).toEqual(['イントロ', 'サビ'].sort());
  });

  it('another encoding by hand: other words, the same bytes, and what reads otherwise is told and quoted', () => {
    const {
      song: after,
      report,
      described,
    } = step(song, 'song.encoding', { encoding: 'Windows-1252' });
    expect(described).toBe('Read texts as Windows-1252');
    expect(after.tracks).toEqual(song.tracks);
    expect(report.changes[0]).toMatchObject({
      did: 'named',
      detail: 'Windows-1252 instead of Shift-JIS',
    });
    expect(report.changes[2]).toMatchObject({
      track: 't2',
      counts: { text: 1 }, // The fifth byte, 81, is no symbol of Windows-1252.
      detail: 'reads “ƒMƒ^ [” for “ギター”',
    });
    const sent = (of: Song) =>
      makeHandoff(
        of,
        { received: of, asRead: of },
        { format: 'as-received', runningStatus: true, chunks: true },
      );
    const [was, now] = [sent(song), sent(after)];
    expect(was.ok && now.ok && now.value.bytes).toEqual(was.ok && was.value.bytes);
    expect(step(after, 'song.encoding', { encoding: 'Shift-JIS' }).song).toEqual(song);
  });

  it('a curly quote stays one byte in a song of Windows-1252', () => {
    const western = named(bytes('Don’t stop', 'Windows-1252'), bytes('Bass', 'Windows-1252'));
    // Its marker is Japanese: by all texts together the song is.
    expect(
      step(western, 'song.encoding', { encoding: 'Windows-1252' }).report.changes.length,
    ).toBeLessThanOrEqual(3);
    const own = { ...western, encoding: 'Windows-1252' as const };
    expect(nameBytes(step(own, 'tracks.rename', { name: 'It’s me' }, ['t2']).song, 1)).toEqual(
      bytes('It’s me', 'Windows-1252'),
    );
  });
});
