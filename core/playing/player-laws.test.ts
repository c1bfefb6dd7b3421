import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { smfFile } from '../../tests/support/generate.ts';
import { writeSmf } from '../smf/write.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';
import { timingOf } from '../song/timing-of.ts';
import { Player } from './player.ts';

const kinds: Readonly<Record<string, number>> = {
  noteOff: 8,
  noteOn: 9,
  noteAftertouch: 10,
  controller: 11,
  programChange: 12,
  channelAftertouch: 13,
  pitchBend: 14,
};

/**
 * Channel messages of a file as the independent reader (npm `midi-file`) has them: tick, track, kind and
 * channel, in the order a player sends them.
 */
function independently(file: Uint8Array): string[] {
  const all = parseMidi(file).tracks.flatMap((track, n) => {
    let tick = 0;
    return track
      .map((e, i) => ({
        tick: (tick += e.deltaTime),
        n,
        i,
        kind: kinds[e.type],
        channel: 'channel' in e ? e.channel : -1,
      }))
      .filter((e) => e.kind !== undefined);
  });
  return all
    .sort((a, b) => a.tick - b.tick || a.n - b.n || a.i - b.i)
    .map((e) => `${e.kind === 9 ? 8 : e.kind} ${e.channel}`);
}

it('every message of a file is said once, in the order of time and tracks, however it is cut into steps', () => {
  fc.assert(
    fc.property(
      smfFile({ alien: false }),
      fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 12 }),
      (smf, cuts) => {
        if (smf.format === 2) return;
        const song = songsFromSmf(smf, 'made.mid')[0]!;
        const told: string[] = [];
        const map = tempoMap(timingOf(song).tempos, song.division);
        // A note-on of velocity 0 is a note-off to one reader and not to the other: both kinds count as one here.
        const player = new Player(
          song.tracks.map((t) => t.events),
          map,
          {
            message: (_, status) =>
              told.push(`${status >> 4 === 9 ? 8 : status >> 4} ${status & 15}`),
            systemExclusive: () => undefined,
            reset: () => undefined,
          },
        );
        const end = ticksToSeconds(map, timingOf(song).endTick);
        for (const part of [...cuts].sort((a, b) => a - b)) player.advance(end * part);
        player.advance(end + 1);
        expect(told).toEqual(independently(writeSmf(smf)));
      },
    ),
    { seed: 93, numRuns: scaleRuns(150) },
  );
});
