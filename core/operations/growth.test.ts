import { describe, expect, it } from 'vitest';
import { costRatio, fourfoldLimit } from '../../tests/support/cost.ts';
import { songOf, take } from '../../tests/support/songs.ts';
import { lookOver } from '../looking/look-over.ts';
import { channelEvent, meta, metaEvent, payloadOf } from '../smf/events.ts';

describe('issue 9.7: costs grow no faster than their input', () => {
  const move = (many: number) => {
    const events = Array.from({ length: many }, (_, i) => [
      metaEvent(i, meta.channelPrefix, Uint8Array.of(0)),
      channelEvent(i, 0xb0, 7, i % 128),
    ]).flat();
    const song = songOf([], events);
    return () => take(song, 'tracks.channel', { channel: 3 }, { tracks: ['t2'] }).song;
  };

  it('32,000 channel prefixes are moved at four times the cost of 8,000, every one of them', () => {
    expect(costRatio(move(8000), move(32_000), fourfoldLimit)).toBeLessThan(fourfoldLimit);
    const { events: now } = move(32_000)().tracks[1]!;
    const prefixes = Array.from({ length: now.count }, (_, i) => i).filter(
      (i) => now.data1[i] === meta.channelPrefix && now.status[i] === 0xff,
    );
    expect(prefixes.length).toBe(32_000);
    expect(prefixes.every((i) => payloadOf(now, i)[0] === 2)).toBe(true);
  });
});

describe('parts made of very many tracks', () => {
  it.each(['notes.share', 'notes.double', 'notes.line'])(
    '%s of 2,000 tracks costs what four times 500 do',
    (operation) => {
      const make = (many: number) => {
        const song = songOf(
          ...Array.from({ length: many }, (_, t) =>
            [0, 96].flatMap((tick) =>
              [60, 64, 67].flatMap((key) => [
                channelEvent(tick, 0x90 | (t % 16), key + (t % 7), 80),
                channelEvent(tick + 90, 0x80 | (t % 16), key + (t % 7), 64),
              ]),
            ),
          ),
        );
        return () => take(song, operation, {});
      };
      expect(costRatio(make(500), make(2000), fourfoldLimit)).toBeLessThan(fourfoldLimit);
    },
  );
});

describe('issue 9.7: the look-over of very many tracks', () => {
  const lookIn = (many: number) => {
    const line = Array.from({ length: 20 }, (_, i) => [
      channelEvent(i * 24 + 7, 0x90, 60 + (i % 5), 50 + i),
      channelEvent(i * 24 + 17, 0x80, 60 + (i % 5), 64),
    ]).flat();
    // Each part doubles the first, lies as late, and has a track that sets up its channel.
    const song = songOf(
      [],
      ...Array.from({ length: many }, () => [
        line,
        [channelEvent(0, 0xc0, 5), channelEvent(0, 0xb0, 7, 90)],
      ]).flat(),
    );
    return () => {
      const again = { ...song };
      expect(lookOver(again).length).toBeGreaterThan(many);
      take(again, 'tracks.channel', {});
    };
  };

  it('of four times as many it costs about four times as much: doubles, late parts, set-up tracks, what is left behind', () => {
    // The very song: what is known of its tracks is known in both.
    expect(costRatio(lookIn(500), lookIn(2000), fourfoldLimit)).toBeLessThan(fourfoldLimit);
  });
});
