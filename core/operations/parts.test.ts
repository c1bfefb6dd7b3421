import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { keys, lines } from '../../tests/support/bars-by-hand.ts';
import { madeSong } from '../../tests/support/made-songs.ts';
import { controller, note, refusal, songOf, take } from '../../tests/support/songs.ts';
import { faultCount, noteFaults } from '../edit/note-faults.ts';
import { definitionSchema } from '../instruments/definition.ts';
import { channelEvent, meta, metaEvent } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import { trackName, type Song } from '../song/song.ts';
import { keyEvent } from '../edit/edit-map.ts';
import { shareOut } from '../harmony/players.ts';
import { runStep } from './run.ts';

/** 96 PPQ: a quarter is 96 ticks. Every before and after here is worked out by hand. */
const name = (tick: number, said: string) => metaEvent(tick, meta.trackName, encodeText(said));
const chord = (quarter: number, its: readonly number[], length = 1) =>
  its.flatMap((key) => note(quarter * 96, length * 96, key));
const names = (song: Song): string[] => song.tracks.map((t) => trackName(t, 'UTF-8'));
const why = (song: Song, operation: string, settings: object = {}): string | undefined =>
  take(song, operation, settings).report.skipped[0]?.why;

describe('doubling a part', () => {
  const flute = songOf([
    name(0, 'Flute'),
    channelEvent(0, 0xc0, 73),
    controller(0, 7, 90),
    ...note(0, 96, 72),
    ...note(96, 96, 76),
  ]);

  it('an octave lower on a new track behind it: its program and controllers go along, on a channel of its own', () => {
    const { song, report, described } = take(flute, 'notes.double');
    expect(names(song)).toEqual(['Flute', 'Flute, octave down']);
    expect(lines(song, 1)).toEqual([
      `0 ff3 ${[...encodeText('Flute, octave down')].join(',')}`,
      '0 c1 73,0',
      '0 b1 7,90',
      '0 91 60,80',
      '96 81 60,64',
      '96 91 64,80',
      '192 81 64,64',
      '192 ff2f',
    ]);
    expect(song.tracks[0]).toBe(flute.tracks[0]);
    expect(report.changes).toMatchObject([{ did: 'added', counts: { note: 2 } }]);
    expect(described).toBe('Doubled 2 notes on Flute, octave down: octave down');
  });

  it('with another instrument, name and channel: none of the old program, and controllers only where wished', () => {
    const { song } = take(flute, 'notes.double', {
      program: 72,
      name: 'Clarinet',
      channel: 5,
      along: false,
    });
    expect(lines(song, 1).slice(1, 3)).toEqual(['0 c4 71,0', '0 94 60,80']);
    expect(names(song)[1]).toBe('Clarinet');
  });

  it('a third and a sixth in the key of the song, and the fifth', () => {
    // D minor: D F A; a third above D is F, a sixth above F is D.
    const song = songOf([keyEvent(0, -1, true), ...note(0, 96, 62), ...note(96, 96, 65)]);
    expect(keys(take(song, 'notes.double', { interval: 'third', way: 'up' }).song, 1)).toBe(
      '65@0 69@1',
    );
    expect(keys(take(song, 'notes.double', { interval: 'sixth', way: 'up' }).song, 1)).toBe(
      '70@0 74@1',
    );
    expect(keys(take(song, 'notes.double', { interval: 'fifth', way: 'down' }).song, 1)).toBe(
      '55@0 58@1',
    );
  });

  it('every second note; unison later, by milliseconds, and detuned by RPN 1', () => {
    const four = songOf([0, 1, 2, 3].flatMap((n) => note(n * 96, 48, 60 + n)));
    expect(keys(take(four, 'notes.double', { every: 2, way: 'up' }).song, 1)).toBe('72@0 74@2');
    // At 120 BPM and 96 PPQ 125 ms are 24 ticks.
    const late = take(four, 'notes.double', { interval: 'unison', delay: 125, cents: 50 }).song;
    expect(keys(late, 1)).toBe('60@0.25 61@1.25 62@2.25 63@3.25');
    // 50 cents up are 8192 + 4096 = 12288: 96 coarse, 0 fine.
    expect(lines(late, 1).slice(1, 7)).toEqual([
      '0 b1 101,0',
      '0 b1 100,1',
      '0 b1 6,96',
      '0 b1 38,0',
      '0 b1 101,127',
      '0 b1 100,127',
    ]);
  });

  it('into a track that is there: what would fall on a key that sounds is left out and said', () => {
    const song = songOf(note(0, 96, 72), note(48, 96, 60, 80, 1));
    const into = take(song, 'notes.double', { to: 't2' }, { tracks: ['t1'] });
    // The C would begin before the one that is there, and ends where that begins.
    expect(keys(into.song, 1)).toBe('60@0 60@0.5');
    expect(into.report.changes[0]!.detail).toContain('1 cut where the next of the key begins');
    const same = songOf(note(48, 96, 72), note(0, 96, 60, 80, 1));
    expect(
      take(same, 'notes.double', { to: 't2' }, { tracks: ['t1'] }).report.skipped[0]!.why,
    ).toBe('Every note of it would fall on one that sounds already.');
  });

  it('key switches go along at their own keys, or stay, and are counted as no notes', () => {
    const definition = definitionSchema.parse({
      name: 'Strings',
      program: 49,
      playable: { lowest: 40, highest: 100 },
      keys: [{ key: 24, name: 'plucked' }],
    });
    const song = songOf([channelEvent(0, 0xc0, 48), ...note(0, 24, 24), ...note(0, 96, 72)]);
    const played = { ...song, tracks: [{ ...song.tracks[0]!, instrument: definition }] };
    const along = take(played, 'notes.double');
    expect(keys(along.song, 1)).toBe('24@0 60@0');
    expect(along.report.changes[0]).toMatchObject({ counts: { note: 1 } });
    expect(along.report.changes[0]!.detail).toContain('1 key switch along');
    const stay = take(played, 'notes.double', { switches: false });
    expect(keys(stay.song, 1)).toBe('60@0');
    expect(stay.report.changes[0]!.detail).toContain('1 key switch stays');
  });

  it('so they do for players and lines, by choice, and never become another key', () => {
    const definition = definitionSchema.parse({
      name: 'Strings',
      program: 49,
      playable: { lowest: 40, highest: 100 },
      keys: [{ key: 24, name: 'plucked' }],
    });
    const song = songOf([channelEvent(0, 0xc0, 48), ...note(0, 24, 24), ...chord(0, [60, 64, 67])]);
    const played = { ...song, tracks: [{ ...song.tracks[0]!, instrument: definition }] };
    expect(keys(take(played, 'notes.line', { switches: true }).song, 1)).toBe('24@0 67@0');
    expect(take(played, 'notes.line').report.changes[0]!.detail).toContain('1 key switch stays');
    const two = take(played, 'notes.share', { players: [{}, {}], switches: true });
    expect([0, 1, 2].map((n) => keys(two.song, n))).toEqual([
      '24@0 60@0',
      '24@0 67@0',
      '24@0 64@0',
    ]);
    expect(two.report.changes.map((c) => c.counts.note)).toEqual([1, 1, 2]);
    const up = take(played, 'notes.voicing', { how: 'octave up' });
    expect(keys(up.song)).toBe('24@0 72@0 76@0 79@0');
    expect(up.report.changes[0]!.detail).toContain('1 key switch stays');
  });

  it('drums, keys beyond the keyboard, nothing, an unknown track: said, nothing half done', () => {
    expect(why(songOf(note(0, 96, 38, 90, 9)), 'notes.double')).toBe('Its notes are drums.');
    expect(why(songOf(note(0, 96, 4)), 'notes.double')).toBe(
      '1 note would leave the keyboard, and there are no others.',
    );
    expect(why(songOf([controller(0, 7, 1)]), 'notes.double')).toBe('It has no notes there.');
    expect(refusal(flute, 'notes.double', { to: 't9' })).toBe('track-unknown');
  });
});

describe('sharing chords out', () => {
  const chords = songOf([
    name(0, 'Keys'),
    ...chord(0, [60, 64, 67, 72]),
    ...chord(1, [59, 62, 65, 67]),
  ]);

  it('four voices among three players, from the top: the lowest is nobody’s, stays in the part and is said', () => {
    const { song, report } = take(chords, 'notes.share');
    expect(names(song)).toEqual(['Keys', 'Keys 1', 'Keys 2', 'Keys 3']);
    expect([1, 2, 3].map((n) => keys(song, n))).toEqual(['72@0 67@1', '67@0 65@1', '64@0 62@1']);
    expect(keys(song)).toBe('60@0 59@1');
    expect(report.changes.at(-1)!.detail).toBe(
      '6 notes taken out, 2 notes that nobody can play stay in it',
    );
  });

  it('from the bottom, and with octaves', () => {
    const { song } = take(chords, 'notes.share', {
      by: 'from the bottom',
      players: [{}, { octaves: -1 }],
    });
    expect([1, 2].map((n) => keys(song, n))).toEqual(['64@0 62@1', '48@0 47@1']);
    expect(keys(song)).toBe('67@0 72@0 65@1 67@1');
  });

  it('within what each can play: a flute’s family does not reach below G3, so that a clarinet takes it', () => {
    // Keys of the instrument tables of this application: flutes from 55, clarinets from 34.
    const low = songOf(chord(0, [50, 54]));
    const { song, report } = take(low, 'notes.share', {
      players: [
        { name: 'Flute', program: 74 },
        { name: 'Clarinet', program: 72 },
      ],
    });
    expect(names(song).slice(1)).toEqual(['Clarinet']);
    expect(report.changes.at(-1)!.detail).toContain('1 note that nobody can play stays in it');
  });

  it('by the shortest ways: voices keep their line where chords move past each other', () => {
    // C E G, then a bare E G: who had the E keeps it, and the first rests.
    const song = songOf([...chord(0, [60, 64, 67]), ...chord(1, [60, 64])]);
    const near = take(song, 'notes.share', { by: 'shortest ways' }).song;
    expect([1, 2, 3].map((n) => keys(near, n))).toEqual(['67@0', '64@0 64@1', '60@0 60@1']);
    const top = take(song, 'notes.share').song;
    expect([1, 2, 3].map((n) => keys(top, n))).toEqual(['67@0 64@1', '64@0 60@1', '60@0']);
  });

  it('more players than notes: they rest or double, as asked, and it is said', () => {
    const one = songOf(note(0, 96, 72));
    const rest = take(one, 'notes.share', { players: [{}, {}] });
    expect(names(rest.song)).toHaveLength(2);
    expect(rest.report.changes.at(-1)!.detail).toContain('1 time somebody rests');
    const both = take(one, 'notes.share', { players: [{}, {}], fewer: 'double', keep: true });
    expect([0, 1, 2].map((n) => keys(both.song, n))).toEqual(['72@0', '72@0', '72@0']);
    expect(both.report.changes.at(-1)!.detail).toContain('1 note doubled');
    expect(why(songOf(note(0, 96, 30)), 'notes.share', { players: [{ program: 74 }] })).toBe(
      'Nobody can play any of its notes there.',
    );
  });

  it('who plays what is the best there is: as many notes as can be, in order, by trying all ways', () => {
    const player = fc.record({
      lowest: fc.integer({ min: 40, max: 70 }),
      highest: fc.integer({ min: 60, max: 90 }),
      octaves: fc.constantFrom(0, 0, 1, -1),
    });
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 45, max: 85 }), { minLength: 1, maxLength: 5 }),
        fc.array(player, { minLength: 1, maxLength: 4 }),
        fc.constantFrom(
          'from the top' as const,
          'from the bottom' as const,
          'shortest ways' as const,
        ),
        fc.array(fc.option(fc.integer({ min: 45, max: 85 }), { nil: undefined }), {
          minLength: 4,
          maxLength: 4,
        }),
        fc.array(fc.boolean(), { minLength: 4, maxLength: 4 }),
        (some, players, by, last, free) => {
          const its = [...some].sort((a, b) => a - b);
          const given = shareOut(its, players, by, last, free);
          const able = (n: number, who: number): boolean => {
            const sounds = its[n]! + players[who]!.octaves * 12;
            return free[who]! && sounds >= players[who]!.lowest && sounds <= players[who]!.highest;
          };
          // In order, within ranges, nobody twice.
          const pairs = given.map((who, n) => [n, who] as const).filter(([, who]) => who !== -1);
          pairs.forEach(([n, who], i) => {
            expect(able(n, who)).toBe(true);
            if (i > 0) expect(who).toBeLessThan(pairs[i - 1]![1]);
          });
          // No way gives more notes to somebody.
          const most = (n: number, below: number): number =>
            n === its.length
              ? 0
              : Math.max(
                  most(n + 1, below),
                  ...Array.from({ length: Math.max(0, below) }, (_, who) =>
                    able(n, who) ? 1 + most(n + 1, who) : 0,
                  ),
                );
          expect(pairs).toHaveLength(most(0, players.length));
        },
      ),
      { seed: 20, numRuns: scaleRuns(400) },
    );
  });
});

describe('pulling a line out of chords', () => {
  const song = songOf([
    ...chord(0, [60, 64, 67], 2),
    ...chord(1, [60, 65, 67]),
    ...chord(2, [60, 64, 69]),
  ]);

  it('top, bottom and the voice that moves most, one note at a time', () => {
    expect(keys(take(song, 'notes.line').song, 1)).toBe('67@0 67@1 69@2');
    expect(keys(take(song, 'notes.line', { which: 'bottom' }).song, 1)).toBe('60@0 60@1 60@2');
    expect(keys(take(song, 'notes.line', { which: 'most moving' }).song, 1)).toBe('64@0 65@1 64@2');
    // The first chord lasts two quarters; its note of the line one, where the next begins.
    expect(lines(take(song, 'notes.line').song, 1).slice(1, 3)).toEqual([
      '0 91 67,80',
      '96 81 67,64',
    ]);
    expect(take(song, 'notes.line').song.tracks[0]).toBe(song.tracks[0]);
  });

  it('nothing with a pitch is said', () => {
    expect(why(songOf(note(0, 96, 38, 90, 9)), 'notes.line')).toBe(
      'It has no pitched notes there.',
    );
  });
});

describe('voicing chords otherwise', () => {
  const voiced = (its: readonly number[], settings: object): string =>
    keys(take(songOf(chord(0, its)), 'notes.voicing', settings).song).replaceAll('@0', '');

  it.each([
    ['invert up', [60, 64, 67], '72 64 67'],
    ['invert down', [60, 64, 67], '60 64 55'],
    ['open', [60, 64, 67], '60 76 67'],
    ['open', [60, 64, 67, 71], '60 76 67 83'],
    ['close', [48, 64, 79, 84], '48 52 55 60'],
    ['close', [48, 67, 76, 79], '48 55 52'],
    ['drop the second voice', [60, 64, 67, 71], '60 64 55 71'],
    ['octave down', [60, 64, 67], '48 52 55'],
    ['octave up', [60, 64, 67], '72 76 79'],
  ])('%s', (how, its, wanted) => {
    const now = voiced(its, { how })
      .split(' ')
      .map(Number)
      .sort((a, b) => a - b);
    expect(now).toEqual(
      wanted
        .split(' ')
        .map(Number)
        .sort((a, b) => a - b),
    );
  });

  it('thinned to three: the outermost stay, and the guide tone before the fifth and the root', () => {
    // G7 with a ninth, from below: G B F A D. Outermost G and D; of B F A the third comes first.
    expect(voiced([43, 59, 65, 69, 74], { how: 'thin', voices: 3 })).toBe('43 59 74');
    expect(voiced([43, 59, 65, 69, 74], { how: 'thin', voices: 4 })).toBe('43 59 65 74');
    // C E G C: the C on top is the C below, the third stays.
    expect(voiced([48, 64, 67, 72], { how: 'thin', voices: 3 })).toBe('48 64 72');
    expect(voiced([60, 64], { how: 'thin', voices: 3 })).toBe('60 64');
  });

  it('chords that would leave the keyboard stay and are said; what they fall on ends where they begin', () => {
    const high = take(songOf([...chord(0, [120, 124]), ...chord(1, [60, 64])]), 'notes.voicing', {
      how: 'octave up',
    });
    expect(keys(high.song)).toBe('120@0 124@0 72@1 76@1');
    expect(high.report.changes[0]!.detail).toBe(
      '1 chord, 1 chord left as they are: they would leave the keyboard',
    );
    // A long C5 of another voice; the C4 that goes up to it begins in its middle.
    const over = songOf([...note(0, 384, 72), ...chord(1, [60, 64])]);
    const done = take(over, 'notes.voicing', { how: 'octave up' });
    expect(lines(done.song).slice(0, 3)).toEqual(['0 90 72,80', '96 80 72,64', '96 90 72,80']);
    expect(done.report.changes[0]!.detail).toContain('1 ends where the next of the key begins');
  });
});

describe('joining notes', () => {
  it('meet, overlap and gap, in ticks and milliseconds; repeats stand apart, rests stay, held voices are held', () => {
    const line = songOf([
      ...note(0, 48, 60),
      ...note(96, 48, 62),
      ...note(192, 48, 62),
      ...note(480, 48, 64),
    ]);
    const offs = (settings: object): string =>
      lines(take(line, 'notes.legato', settings).song)
        .filter((l) => / 80 /.test(l))
        .map((l) => l.split(',')[0]!.replace(' 80', ''))
        .join(', ');
    // 10 ms at 120 BPM are 1.92 ticks: 190. The gap before the last is 2.5 quarters, a rest.
    expect(offs({})).toBe('96 60, 190 62, 240 62, 528 64');
    expect(offs({ how: 'overlap', amount: 12, unit: 'ticks', repeats: 0 })).toBe(
      '108 60, 192 62, 240 62, 528 64',
    );
    expect(offs({ how: 'gap', amount: 4, unit: 'ticks', repeats: 4 })).toBe(
      '92 60, 188 62, 240 62, 528 64',
    );
    expect(offs({ rests: 3 })).toBe('96 60, 190 62, 480 62, 528 64');
    const held = songOf([...note(0, 384, 48), ...note(96, 48, 60), ...note(192, 48, 62)]);
    expect(lines(take(held, 'notes.legato').song)).toContain('384 80 48,64');
  });
});

describe('strumming and aligning', () => {
  it('by a note value, and all with the first', () => {
    const song = songOf(chord(0, [60, 64, 67], 2));
    expect(keys(take(song, 'notes.strum', { by: '1/32' }).song)).toBe('60@0 64@0.125 67@0.25');
    // 6 ticks are 31 ms.
    const loose = songOf([...note(0, 96, 60), ...note(6, 90, 64), ...note(12, 84, 67)]);
    expect(keys(take(loose, 'notes.strum', { way: 'together', near: 70 }).song)).toBe(
      '60@0 64@0 67@0',
    );
    expect(keys(take(loose, 'notes.strum', { way: 'together', near: 40 }).song)).toBe(
      '60@0 64@0 67@0.125',
    );
  });
});

describe('laws of parts', () => {
  const steps = [
    { operation: 'notes.double', settings: {} },
    { operation: 'notes.double', settings: { interval: 'third', way: 'up', delay: 30 } },
    { operation: 'notes.share', settings: {} },
    {
      operation: 'notes.share',
      settings: {
        by: 'shortest ways',
        players: [
          { lowest: 50, highest: 70 },
          { lowest: 40, highest: 64 },
        ],
      },
    },
    { operation: 'notes.line', settings: { which: 'bottom' } },
  ];

  it.each(steps.map((s) => [JSON.stringify(s), s] as const))(
    '%s: new parts have no fault, keep to their ranges; tracks that are not named are the same',
    (_, step) => {
      fc.assert(
        fc.property(madeSong, (before) => {
          const done = runStep(before, step);
          if (!done.ok) return;
          const { song, report } = done.value;
          const named = new Set(report.changes.map((c) => c.track));
          for (const track of before.tracks)
            if (!named.has(track.id)) expect(song.tracks).toContain(track);
          for (const { track, did } of report.changes) {
            if (did !== 'added') continue;
            const made = song.tracks.find((t) => t.id === track)!;
            expect(faultCount(noteFaults(made.events))).toBe(0);
          }
          if (step.operation !== 'notes.share') return;
          // No note is lost: those of the players and those that stay are those that were.
          const count = (s: Song): number => s.tracks.reduce((n, t) => n + keysIn(t), 0);
          // Doubling aside, which is not asked for, the same number.
          expect(count(song)).toBe(count(before));
        }),
        { seed: 21, numRuns: scaleRuns(120) },
      );
    },
  );
});

function keysIn({ events }: Song['tracks'][number]): number {
  let count = 0;
  for (let i = 0; i < events.count; i++)
    if (events.status[i]! >> 4 === 9 && events.data2[i] !== 0) count++;
  return count;
}
