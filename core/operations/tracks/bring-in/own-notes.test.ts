import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { metByNotes } from '../../../../tests/support/in-force-at-notes.ts';
import { madeSong } from '../../../../tests/support/made-songs.ts';
import { scaleRuns } from '../../../../tests/support/scale.ts';
import { controller, note, songOf } from '../../../../tests/support/songs.ts';
import {
  channelEvent,
  eventValues,
  meta,
  metaEvent,
  type EventValue,
} from '../../../smf/events.ts';
import type { Song } from '../../../song/song.ts';
import { runStep } from '../../run.ts';
import { sourceKey } from '../../sources.ts';

const name = { original: 'a'.repeat(64), part: 1, called: 'x.mid' };

function brought(song: Song, source: Song, settings: object = {}) {
  const done = runStep(
    song,
    { operation: 'tracks.bring-in', settings: { source: name, ...settings } },
    new Map([[sourceKey(name), source]]),
  );
  if (!done.ok) throw new Error(JSON.stringify(done.problem));
  return done.value;
}

const drum = (tick: number, key = 36): EventValue[] => note(tick, 24, key, 90, 9);
const program = (tick: number, number: number, channel = 9): EventValue =>
  channelEvent(tick, 0xc0 | channel, number, 0);
const exclusive = (...bytes: number[]): EventValue => ({
  ...metaEvent(0, 0, Uint8Array.from(bytes)),
  status: 0xf0,
});
/** Programs and controllers of a track: tick, status, and its data. */
const settings = (song: Song, track: number): string[] =>
  eventValues(song.tracks[track]!.events)
    .filter((e) => e.status >= 0xa0 && e.status < 0xf0)
    .map((e) => [e.atTick, e.status.toString(16), e.data1, e.data2].join(' '));
const toldOf = (report: { changes: readonly { detail?: string | undefined }[] }): string =>
  report.changes.map((c) => c.detail ?? '').join('; ');

describe('drums that come to a song that has drums, worked by hand: 96 ticks a quarter, bars of 384', () => {
  // Kit 0 at volume 100; hits in bars 1 and 5.
  const own = songOf([program(0, 0), controller(0, 7, 100, 9), ...drum(0), ...drum(1536)]);
  const kit = [program(0, 25), controller(0, 7, 60, 9), controller(0, 10, 20, 9)];

  it('among its hits: on the kit of the song, which is said', () => {
    const donor = songOf([...kit, ...drum(0), ...drum(1600)]);
    const { song, report } = brought(own, donor);
    expect(settings(song, 1)).toEqual([]);
    expect(song.tracks[1]!.events.status.filter((s) => s === 0x99)).toHaveLength(2);
    expect(toldOf(report)).toBe(
      'had no name; plays the kit of this song: 1 program, 2 controllers left out',
    );
  });

  it('in a gap: on its own kit, which is set back behind its last hit', () => {
    const { song, report } = brought(own, songOf([...kit, ...drum(0), ...drum(384)]), {
      at: { bar: 3 },
    });
    // Bar 3 is tick 768; the last hit ends at 768 + 384 + 24.
    expect(settings(song, 1)).toEqual([
      '768 c9 25 0',
      '768 b9 7 60',
      '768 b9 10 20',
      '1176 c9 0 0',
      '1176 b9 7 100',
      '1176 b9 10 64',
    ]);
    expect(toldOf(report)).toContain('channel 10 is restored after it (3 messages)');
  });

  it('behind all of them: as it came', () => {
    const { song } = brought(own, songOf([...kit, ...drum(0)]), { at: { bar: 6 } });
    expect(settings(song, 1)).toEqual(['1920 c9 25 0', '1920 b9 7 60', '1920 b9 10 20']);
  });

  it('a message that sets all anew (GM on, MIDI 1.0: F0 7E 7F 09 01 F7) stays out', () => {
    const donor = songOf([exclusive(0x7e, 0x7f, 0x09, 0x01, 0xf7), ...drum(0)]);
    const { song, report } = brought(own, donor);
    expect([...song.tracks[1]!.events.status]).not.toContain(0xf0);
    expect(toldOf(report)).toContain(
      '1 system exclusive left out: it would reset this song’s parts',
    );
    const behind = brought(own, donor, { at: { bar: 6 } }).song;
    expect([...behind.tracks[1]!.events.status]).toContain(0xf0);
  });

  it('on another port it is another instrument (RP-019)', () => {
    const port = (n: number): EventValue => metaEvent(0, meta.port, Uint8Array.of(n));
    const first = songOf([port(0), ...eventValues(own.tracks[0]!.events).slice(0, -1)]);
    const { song } = brought(first, songOf([port(1), ...kit, ...drum(0)]));
    expect(settings(song, 1)).toHaveLength(3);
  });

  it('a track that only sets up what the song has set up is no track here, which is said', () => {
    const { song, report } = brought(own, songOf([...kit, ...drum(0)], [program(0, 40)]));
    expect(song.tracks).toHaveLength(2);
    expect(report.skipped).toEqual([
      { name: '', why: 'plays the kit of this song: 1 program left out.' },
    ]);
  });

  it('onto its drums, in their place: what it set is set back where it ends', () => {
    const { song } = brought(own, songOf([controller(0, 7, 60, 9), ...drum(0)]), {
      at: { bar: 3 },
      onto: [{ track: 't1', to: 't1', how: 'replace' }],
    });
    expect(settings(song, 0)).toEqual(['0 c9 0 0', '0 b9 7 100', '768 b9 7 60', '792 b9 7 100']);
  });
});

describe('whatever comes, however it comes: each note of the song that is still there meets what it met', () => {
  const ways = fc.record({
    bar: fc.constantFrom(1, 2, 4, 7),
    channels: fc.constantFrom('free where taken', 'as they are'),
    keep: fc.constantFrom('bars', 'seconds'),
    how: fc.constantFrom(undefined, 'merge', 'replace', 'where empty'),
  });
  const key = ({ track, atTick, key, channel }: ReturnType<typeof metByNotes>[number]): string =>
    `${track} ${atTick} ${channel} ${key}`;

  it('songs made at random, with ports, pedals, bends, parameters and programs', () => {
    fc.assert(
      fc.property(madeSong, madeSong, ways, (song, other, { bar, how, ...asked }) => {
        const source = { ...other, division: song.division };
        const keep = song.division.kind === 'smpte' ? 'seconds' : asked.keep;
        const [into, from] = [song.tracks.at(-1)!, source.tracks.at(-1)!];
        // A part without notes is laid onto one for what it says there.
        if (how && !from.events.status.some((s) => s >> 4 === 9)) return;
        const { song: after } = brought(song, source, {
          at: { bar },
          ...asked,
          keep,
          ...(how
            ? { tracks: [from.id], onto: [{ track: from.id, to: into.id, how }] }
            : { tracks: 'all' }),
        });
        const own = new Set(song.tracks.map((t) => t.id));
        const met = new Map(metByNotes(after).map((m) => [key(m), m]));
        for (const was of metByNotes(song)) {
          const is = met.get(key(was));
          if (is && own.has(is.track) && is.velocity === was.velocity)
            expect([key(was), is.words]).toEqual([key(was), was.words]);
        }
      }),
      { seed: 341, numRuns: scaleRuns(600) },
    );
  });
});
