import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../tests/support/scale.ts';
import { end, keys, of } from '../../../tests/support/bars-by-hand.ts';
import { madeSong } from '../../../tests/support/made-songs.ts';
import { note, refusal, songOf, take } from '../../../tests/support/songs.ts';
import { meterEvent } from '../../edit/edit-map.ts';
import { chordLineOf } from '../../harmony/chord-line.ts';
import { toNearestTones } from '../../harmony/fit-to-chord.ts';
import { inForceAt } from '../../harmony/in-force.ts';
import { asTyped, readTyped } from '../../harmony/typed-chords.ts';
import { meta, metaEvent } from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { barTick, meterMap } from '../../timing/meter-map.ts';
import { runStep } from '../run.ts';

/** 96 PPQ: a bar of 4/4 is 384 ticks. Every before and after here is worked out by hand. */
const text = (tick: number, said: string, type: number = meta.text) =>
  metaEvent(tick, type, encodeText(said));
const line = (song: Song): string =>
  chordLineOf(song)
    .map((c) => `${c.text}@${c.atTick / 96}${c.travels ? '' : ' kept'}`)
    .join(' ');
const chord = (quarter: number, its: readonly number[], length = 4) =>
  its.flatMap((key) => note(quarter * 96, length * 96, key));
const empty = songOf([end(8)]);

describe('the chord line is written', () => {
  it('as it is typed: bars parted by |, divided evenly on beats; . goes on', () => {
    expect(line(take(empty, 'chords.set', { typed: 'Dm7 G7/B | Cmaj9' }).song)).toBe(
      'Dm7@0 G7/B@2 Cmaj9@4 end@8',
    );
    expect(line(take(empty, 'chords.set', { typed: '| C . . F | % | Am F G |' }).song)).toBe(
      'C@0 F@3 Am@8 F@9 G@10 end@12',
    );
    expect(
      line(
        take(empty, 'chords.set', { typed: 'c'.toUpperCase() + '\nF♯m7♭5 H'.replace(' H', '') })
          .song,
      ),
    ).toBe('C@0 F#m7b5@4 end@8');
    // Three bars of 3/4: beats one and two, then one and three.
    const waltz = songOf([meterEvent(0, 3, 4), end(8, 288)]);
    expect(line(take(waltz, 'chords.set', { typed: 'C F | C . F' }).song)).toBe(
      'C@0 F@1 C@3 F@5 end@6',
    );
  });

  it('stands among the events as a text that anybody can read, sent or kept', () => {
    const { song } = take(empty, 'chords.set', { typed: 'C' });
    expect(song.tracks[0]!.events.data1[0]).toBe(meta.text);
    expect(timingOf(song).texts).toEqual([]);
    const kept = take(empty, 'chords.set', { typed: 'C | F', sent: false }).song;
    expect(line(kept)).toBe('C@0 kept F@4 kept end@8 kept');
    // Its end goes with it, sent or kept.
    const sent = take(kept, 'chords.set', { typed: 'C | F' }).song;
    expect(line(sent)).toBe('C@0 F@4 end@8');
    expect(line(take(kept, 'chords.set', { typed: 'G' }, of(2)).song)).toBe('C@0 kept G@4 end@8');
  });

  it('of some bars, or over and over: the line ends where what is typed ends, or goes on with what was there', () => {
    const song = take(empty, 'chords.set', { typed: 'C | F | G | C' }).song;
    expect(line(take(song, 'chords.set', { typed: 'Am' }, of(2)).song)).toBe(
      'C@0 Am@4 G@8 C@12 end@16',
    );
    // Behind its end it says nothing: what is typed there ends, too. A bar beside goes on from it.
    const apart = take(song, 'chords.set', { typed: 'Am' }, of(7)).song;
    expect(line(apart)).toBe('C@0 F@4 G@8 C@12 end@16 Am@24 end@28');
    expect(line(take(apart, 'chords.set', { typed: 'D | E' }, of(5)).song)).toBe(
      'C@0 F@4 G@8 C@12 D@16 E@20 Am@24 end@28',
    );
    // With the last chord before it an end goes, too; at the end of the song there is none to say.
    expect(line(take(apart, 'chords.set', { from: 'nothing' }, of(1, 4)).song)).toBe(
      'Am@24 end@28',
    );
    expect(line(take(empty, 'chords.set', { typed: 'C' }, of(8)).song)).toBe('C@28');
    // A bar with nothing in it goes on with what is before it, whatever that is.
    const long = take(empty, 'chords.set', { typed: 'C | % | G' }).song;
    expect(line(take(long, 'chords.set', { typed: 'F' }, of(1)).song)).toBe('F@0 G@8 end@12');
    expect(line(take(empty, 'chords.set', { typed: 'Am | F', repeat: true }, of(1, 5)).song)).toBe(
      'Am@0 F@4 Am@8 F@12 Am@16 end@20',
    );
    expect(line(take(song, 'chords.set', { from: 'nothing' }, of(2, 3)).song)).toBe(
      'C@0 C@12 end@16',
    );
    expect(line(take(song, 'chords.set', { from: 'nothing' }).song)).toBe('');
    expect(
      line(
        take(
          song,
          'chords.set',
          {
            from: 'points',
            points: [
              { atTick: 480, chord: 'D7' },
              { atTick: 2000, chord: 'E' },
            ],
          },
          of(2),
        ).song,
      ),
    ).toBe('C@0 D7@5 G@8 C@12 end@16');
  });

  it('from what sounds, and from lyrics and texts that are chords', () => {
    const played = songOf([
      ...chord(0, [48, 60, 64, 67]),
      ...chord(4, [53, 60, 65, 69]),
      ...chord(12, [48, 60, 64, 67]),
    ]);
    // Nothing sounds in bar 3.
    expect(line(take(played, 'chords.set', { from: 'what sounds' }).song)).toBe(
      'C@0 F@4 N.C.@8 C@12',
    );
    const said = songOf([
      text(0, 'Dm7', meta.lyric),
      text(96, 'Amen', meta.lyric),
      text(384, '[G7]'),
      text(768, 'chord: Cmaj7'),
      text(800, 'chord: Hmm'),
      end(8),
    ]);
    const done = take(said, 'chords.set', { from: 'texts' });
    expect(line(done.song)).toBe('Dm7@0 G7@4 Cmaj7@8');
    expect(done.report.skipped[0]!.why).toBe('No chord symbols: “chord: Hmm”.');
    // Words of a song that are symbols as well are words; in brackets before a syllable they are chords.
    const sung = songOf([
      ...['A', 'ship', 'I', 'Am', 'on', 'it'].map((word, n) => text(n * 96, word, meta.lyric)),
      text(768, '[Em]home', meta.lyric),
      end(8),
    ]);
    expect(line(take(sung, 'chords.set', { from: 'texts' }).song)).toBe('Em@8');
    // What was lyric and text stays.
    expect(timingOf(done.song).texts.map((t) => t.text)).toEqual(['[G7]']);
  });

  it('what is no chord is refused with its bar, what is not there is said, and nothing is done', () => {
    const refused = runStep(empty, {
      operation: 'chords.set',
      settings: { typed: 'C | F | Hx' },
      scope: of(3),
    });
    expect(refused).toMatchObject({
      ok: false,
      problem: { code: 'chord-unreadable', typed: 'Hx', bar: 5 },
    });
    expect(refusal(empty, 'chords.set', { typed: '  ' })).toBe('settings-invalid');
    expect(
      refusal(empty, 'chords.set', { from: 'points', points: [{ atTick: 0, chord: 'x' }] }),
    ).toBe('chord-unreadable');
    expect(take(empty, 'chords.set', { from: 'what sounds' }).report.skipped[0]!.why).toBe(
      'Nothing with a pitch sounds there.',
    );
    expect(take(empty, 'chords.set', { from: 'texts' }).report.skipped[0]!.why).toBe(
      'No lyric and no text there is a chord symbol.',
    );
  });

  it('law: before the bars that are written, and from the next chord behind them on, the chord at every tick is the one that was', () => {
    const typed = fc.array(fc.constantFrom('C', 'Dm7', 'G7/B', 'N.C.', '%', 'F . C', 'Am F'), {
      minLength: 1,
      maxLength: 3,
    });
    fc.assert(
      fc.property(madeSong, typed, fc.integer({ min: 1, max: 3 }), (song, bars, from) => {
        const settings = { typed: bars.join(' | ') };
        const done = runStep(song, { operation: 'chords.set', settings, scope: of(from) });
        if (!done.ok) return;
        const map = meterMap(timingOf(song).meters, song.division);
        const read = readTyped(settings.typed, map, from);
        if (!('points' in read)) throw new Error('read');
        const [was, is] = [chordLineOf(song), chordLineOf(done.value.song)];
        const behind = barTick(map, from + bars.length);
        const next = was.find((c) => c.atTick >= behind)?.atTick ?? Infinity;
        for (let tick = 0; tick < 2400; tick += 12) {
          const said = inForceAt(was, tick)?.text;
          const now = inForceAt(is, tick)?.text;
          if (tick < barTick(map, from) || tick >= next) expect([tick, now]).toEqual([tick, said]);
          // Where the line said nothing it ends with what is typed.
          else if (now === 'end' && tick >= behind) continue;
          else
            expect([tick, now]).toEqual([
              tick,
              inForceAt(read.points, tick)?.text ?? inForceAt(was, barTick(map, from) - 1)?.text,
            ]);
        }
      }),
      { seed: 22, numRuns: scaleRuns(150) },
    );
  });

  it('law: what is shown as typed is read as the same points, in any meter', () => {
    const map = meterMap(
      [
        { atTick: 0, numerator: 4, denominator: 4 },
        { atTick: 768, numerator: 7, denominator: 8 },
      ],
      { kind: 'ppq', ticksPerQuarter: 96 },
    );
    const beats = fc
      .uniqueArray(fc.integer({ min: 0, max: 15 }), { maxLength: 6 })
      .map((list) => [...list].sort((a, b) => a - b));
    fc.assert(
      fc.property(beats, (its) => {
        const points = its.map((n, i) => ({ atTick: n * 48, text: ['C', 'F', 'G7'][i % 3]! }));
        const back = readTyped(asTyped(points, map, 1, 4), map, 1);
        expect('points' in back && back.points).toEqual(points);
      }),
      { seed: 23, numRuns: scaleRuns(200) },
    );
  });
});

describe('the chord line goes with the song', () => {
  const song = take(
    songOf([
      ...chord(0, [60, 64, 67]),
      ...chord(4, [65, 69, 72]),
      ...chord(8, [67, 71, 74]),
      end(4),
    ]),
    'chords.set',
    { typed: 'C | F | G7/B | C' },
  ).song;

  it('transposed with all that has a pitch, and not with a part of it; by steps its chords are those of the key', () => {
    expect(line(take(song, 'notes.transpose', { semitones: 3 }).song)).toBe(
      'Eb@0 Ab@4 Bb7/D@8 Eb@12',
    );
    expect(line(take(song, 'notes.transpose', { semitones: 3 }, of(2)).song)).toBe(
      'C@0 Ab@4 G7/B@8 C@12',
    );
    // A step up in C major: Dm, Gm is not of C, but G; G7 becomes A minor seven.
    expect(line(take(song, 'notes.transpose', { steps: 1 }).song)).toBe('Dm@0 G@4 Am7/C@8 Dm@12');
    const two = {
      ...song,
      tracks: [...song.tracks, { id: 't2', events: songOf(note(0, 96, 60)).tracks[0]!.events }],
      nextTrack: 3,
    };
    expect(line(take(two, 'notes.transpose', { semitones: 3 }, { tracks: ['t2'] }).song)).toBe(
      line(song),
    );
  });

  it('moves with the bars, and is said again where a join would change it', () => {
    expect(line(take(song, 'bars.cut', {}, of(2)).song)).toBe('C@0 G7/B@4 C@8');
    expect(line(take(song, 'bars.move', { before: 1 }, of(3)).song)).toBe('G7/B@0 C@4 F@8 C@12');
    // Bar 2 alone twice: the F goes on into its copy.
    expect(line(take(song, 'bars.copy', { before: 4 }, of(2)).song)).toMatch(
      /^C@0 F@4 G7\/B@8 F@12 C@16$/,
    );
    const long = take(songOf([end(4)]), 'chords.set', { typed: 'C | % | G' }).song;
    // Bar 2, in which the C goes on, comes behind bar 3.
    expect(line(take(long, 'bars.move', { before: 4 }, of(2)).song)).toBe('C@0 G@4 C@8 end@12');
  });
});

describe('parts fitted to the chord line', () => {
  it('as far as chords were typed: bars 2 to 4 of 8, the others stay (C# D# F# in every bar)', () => {
    const song = songOf([
      ...Array.from({ length: 8 }, (_, bar) => chord(bar * 4, [61, 63, 66])).flat(),
      end(8),
    ]);
    const typed = take(song, 'chords.set', { typed: 'C | F | C' }, of(2)).song;
    const { song: after } = take(typed, 'chords.apply');
    const bars = keys(after).split(' ');
    const before = keys(song).split(' ');
    expect(
      bars
        .filter((note, n) => note !== before[n])
        .map((note) => Number(note.split('@')[1]) / 4 + 1),
    ).toEqual([2, 2, 2, 3, 3, 3, 4, 4, 4]);
  });

  const fitted = (its: readonly number[], typed: string, settings: object = {}): string => {
    const song = take(
      songOf([...its.flatMap((key, n) => note(n * 96, 96, key)), end(2)]),
      'chords.set',
      { typed },
    ).song;
    return keys(take(song, 'chords.apply', settings).song).replace(/@\S+/g, '');
  };

  it('each note goes to the nearest tone, a chord’s notes in their order and to different tones', () => {
    // C D E F over Am (A C E): C stays, D is as near to C as to E and goes up, E stays, F down to E.
    expect(fitted([60, 62, 64, 65], 'Am')).toBe('60 64 64 64');
    const block = take(songOf([...chord(0, [60, 64, 67]), end(2)]), 'chords.set', {
      typed: 'F',
    }).song;
    // C E G to F A C: C stays, E to F, G to A.
    expect(keys(take(block, 'chords.apply').song)).toBe('60@0 65@0 69@0');
    const twice = take(songOf([...chord(0, [64, 65]), end(2)]), 'chords.set', { typed: 'Am' }).song;
    expect(keys(take(twice, 'chords.apply').song)).toBe('64@0 69@0');
  });

  it('degree by degree: the third of what was becomes the third of what is', () => {
    const block = take(songOf([...chord(0, [48, 60, 64, 67]), end(2)]), 'chords.set', {
      typed: 'Am',
    }).song;
    // C C E G as C: root, root, third, fifth of A minor, each the nearest way.
    expect(keys(take(block, 'chords.apply', { by: 'degrees' }).song)).toBe('45@0 57@0 60@0 64@0');
  });

  it('a bass goes to the bass of the chord; on beats alone, what is between stays; a note just before a chord is meant for it', () => {
    expect(fitted([36, 38], 'F/A', { bass: true })).toBe('33 33');
    const walking = take(songOf([...note(0, 48, 61), ...note(48, 48, 62), end(2)]), 'chords.set', {
      typed: 'C',
    }).song;
    expect(keys(take(walking, 'chords.apply', { which: 'notes on beats' }).song)).toBe(
      '60@0 62@0.5',
    );
    const early = take(songOf([...note(370, 96, 61), end(2)]), 'chords.set', {
      typed: 'A | F',
    }).song;
    expect(keys(take(early, 'chords.apply').song)).toContain('60@');
  });

  it('no chord line, no chord there, tones already: said, and nothing done', () => {
    const why = (song: Song): string | undefined =>
      take(song, 'chords.apply').report.skipped.at(-1)?.why;
    const one = songOf([...note(0, 96, 60), end(2)]);
    expect(why(one)).toBe(
      'The song has no chord line: type chords, or take them from what sounds.',
    );
    expect(why(take(one, 'chords.set', { typed: 'N.C. | C' }).song)).toBe(
      'The chord line has no chord there.',
    );
    expect(why(take(one, 'chords.set', { typed: 'Am' }).song)).toBe(
      'Its notes are tones of the chords already.',
    );
    expect(
      why(take(songOf([...note(0, 96, 38, 90, 9), end(2)]), 'chords.set', { typed: 'C' }).song),
    ).toBe('It has no pitched notes there.');
  });

  it('the least moved together, by trying all ways', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 48, max: 72 }), { minLength: 1, maxLength: 4 }),
        fc.uniqueArray(fc.integer({ min: 0, max: 11 }), { minLength: 2, maxLength: 4 }),
        (some, pitches) => {
          const its = [...some].sort((a, b) => a - b);
          const now = toNearestTones(its, pitches);
          now.forEach((key, n) => {
            expect(pitches).toContain(key % 12);
            if (n > 0) expect(key).toBeGreaterThan(now[n - 1]!);
          });
          const targets = Array.from({ length: 49 }, (_, n) => n + 36).filter((k) =>
            pitches.includes(k % 12),
          );
          const least = (n: number, above: number): number =>
            n === its.length
              ? 0
              : Math.min(
                  Infinity,
                  ...targets
                    .filter((t) => t > above && Math.abs(t - its[n]!) <= 24)
                    .map((t) => Math.abs(t - its[n]!) + least(n + 1, t)),
                );
          const moved = now.reduce((sum, key, n) => sum + Math.abs(key - its[n]!), 0);
          expect(moved).toBe(least(0, -1));
        },
      ),
      { seed: 24, numRuns: scaleRuns(60) },
    );
  });
});
