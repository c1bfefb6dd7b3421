import { describe, expect, it } from 'vitest';
import { controller, note, songOf, take } from '../../tests/support/songs.ts';
import { channelEvent, eventValues, meta, metaEvent, type EventValue } from '../smf/events.ts';
import { lookOver } from '../looking/look-over.ts';
import { soundingOn } from './heard.ts';
import type { Song } from '../song/song.ts';

const laneOf = (song: Song, number: number, track = 0): string[] =>
  eventValues(song.tracks[track]!.events)
    .filter((e) => e.status >> 4 === 0xb && e.data1 === number)
    .map((e) => `${e.atTick}:${e.data2}`);

/**
 * When each key sounds, by an instrument played event by event (MIDI 1.0): a note ends at its note-off, or
 * with the damper where that is down. Gives intervals as `from-to` in order.
 */
function heard(events: readonly EventValue[]): string[] {
  const [keys, kept] = [new Map<number, number>(), new Map<number, number>()];
  const said: string[] = [];
  let down = false;
  for (const { atTick, status, data1, data2 } of events) {
    const kind = status >> 4;
    if (kind === 9 && data2 > 0) {
      if (kept.has(data1)) said.push(`${data1} ${kept.get(data1)}-${atTick}`);
      kept.delete(data1);
      keys.set(data1, atTick);
    } else if (kind === 8 || kind === 9) {
      const from = keys.get(data1);
      if (from === undefined) continue;
      keys.delete(data1);
      if (down) kept.set(data1, from);
      else said.push(`${data1} ${from}-${atTick}`);
    } else if (kind === 0xb && data1 === 64) {
      down = data2 >= 64;
      if (!down) for (const [key, from] of kept) said.push(`${key} ${from}-${atTick}`);
      if (!down) kept.clear();
    }
  }
  return said.sort();
}

describe('issue 10.4: what nobody hears, judged by what sounds', () => {
  it('a damper that goes up and down on one tick lets go of what it held: both values stay', () => {
    const song = songOf([
      controller(0, 64, 127),
      ...note(10, 40, 60),
      controller(96, 64, 0),
      controller(96, 64, 127),
      ...note(100, 40, 64),
      controller(192, 64, 0),
      ...note(200, 10, 65),
    ]);
    const { song: after } = take(song, 'controllers.tidy');
    expect(laneOf(after, 64)).toEqual(['0:127', '96:0', '96:127', '192:0']);
    expect(heard(eventValues(after.tracks[0]!.events))).toEqual(
      heard(eventValues(song.tracks[0]!.events)),
    );
    expect(heard(eventValues(song.tracks[0]!.events))).toEqual([
      '60 10-96',
      '64 100-192',
      '65 200-210',
    ]);
  });

  it('a swell under notes that only the pedal holds is heard; in real silence it is not', () => {
    const swell = (from: number) => [0, 1, 2, 3].map((n) => controller(from + n * 10, 11, 40 + n));
    const held = songOf([
      controller(0, 64, 127),
      ...note(0, 40, 60),
      ...swell(60),
      controller(140, 64, 0),
      ...swell(160),
      ...note(240, 40, 60),
    ]);
    expect(laneOf(take(held, 'controllers.tidy').song, 11)).toEqual([
      '60:40',
      '70:41',
      '80:42',
      '90:43',
      '190:43',
    ]);
    // By the sostenuto pedal too, if it went down while the note sounded.
    const caught = songOf([
      ...note(0, 40, 60),
      controller(20, 66, 127),
      ...swell(60),
      controller(140, 66, 0),
      ...note(240, 40, 60),
    ]);
    expect(laneOf(take(caught, 'controllers.tidy').song, 11)).toHaveLength(4);
    const late = songOf([
      ...note(0, 40, 60),
      controller(50, 66, 127),
      ...swell(60),
      controller(140, 66, 0),
      ...note(240, 40, 60),
    ]);
    expect(laneOf(take(late, 'controllers.tidy').song, 11)).toEqual(['90:43']);
  });

  it('what another track plays on the channel sounds', () => {
    const swell = [0, 1, 2, 3].map((n) => controller(60 + n * 10, 11, 40 + n));
    const two = songOf([...note(0, 40, 60), ...swell, ...note(240, 40, 60)], note(50, 100, 72));
    expect(laneOf(take(two, 'controllers.tidy').song, 11)).toHaveLength(4);
    const apart = songOf(
      [...note(0, 40, 60), ...swell, ...note(240, 40, 60)],
      note(50, 100, 72, 80, 1),
    );
    expect(laneOf(take(apart, 'controllers.tidy').song, 11)).toEqual(['90:43']);
    // On another port another instrument plays it.
    const port = (n: number) => metaEvent(0, meta.port, Uint8Array.of(n));
    const ported = songOf(
      [port(0), ...note(0, 40, 60), ...swell, ...note(240, 40, 60)],
      [port(1), ...note(50, 100, 72)],
      [port(0), ...note(0, 10, 72, 80, 1)],
    );
    expect(laneOf(take(ported, 'controllers.tidy').song, 11)).toEqual(['90:43']);
    expect(soundingOn(two, two.tracks[0]!.events, 0).soundsAt(100)).toBe(true);
  });

  it('a value that comes again behind a reset, or behind another track’s, says something; the coarse half of a pair always does', () => {
    const repeats = (between: EventValue[], ...others: EventValue[][]) =>
      laneOf(
        take(
          songOf(
            [controller(0, 11, 90), ...between, controller(100, 11, 90), ...note(0, 200, 60)],
            ...others,
          ),
          'controllers.thin',
        ).song,
        11,
      );
    expect(repeats([controller(50, 11, 90)])).toEqual(['0:90']);
    expect(repeats([controller(50, 121, 0)])).toEqual(['0:90', '100:90']);
    // System exclusive may reset every channel, whichever track sends it (General MIDI System On, RP-003).
    expect(
      repeats(
        [],
        [
          {
            atTick: 50,
            status: 0xf0,
            data1: 0,
            data2: 0,
            payload: Uint8Array.of(0x7e, 0x7f, 9, 1, 0xf7),
          },
        ],
      ),
    ).toEqual(['0:90', '100:90']);
    expect(
      laneOf(
        take(
          songOf([
            controller(0, 11, 90),
            controller(20, 11, 90),
            controller(40, 121, 0),
            controller(60, 11, 90),
            controller(80, 11, 90),
            ...note(0, 200, 60),
          ]),
          'controllers.thin',
        ).song,
        11,
      ),
    ).toEqual(['0:90', '60:90']);
    const fine = songOf([
      controller(0, 1, 64),
      controller(1, 33, 20),
      controller(50, 1, 64),
      controller(90, 1, 64),
      ...note(0, 200, 60),
    ]);
    expect(laneOf(take(fine, 'controllers.thin').song, 1)).toHaveLength(3);
    const other = songOf(
      [0, 40, 80].map((t) => controller(t, 7, 100)),
      [controller(20, 7, 30), ...note(0, 200, 60)],
    );
    expect(laneOf(take(other, 'controllers.thin').song, 7)).toEqual(['0:100', '40:100']);
  });

  it('the look-over counts repeats the same way', () => {
    const volumes = (gap: (n: number) => EventValue[]) =>
      songOf([
        ...Array.from({ length: 40 }, (_, n) => [controller(n * 10, 7, 100), ...gap(n)]).flat(),
        ...note(0, 500, 60),
      ]);
    const found = (song: Song) =>
      lookOver(song)
        .filter((f) => f.title.includes('say nothing new'))
        .map((f) => f.count);
    expect(found(volumes(() => []))).toEqual([39]);
    expect(found(volumes((n) => [channelEvent(n * 10 + 5, 0xb0, 121, 0)]))).toEqual([]);
  });
});
