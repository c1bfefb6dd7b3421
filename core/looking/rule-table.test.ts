import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { demoFiles } from '../../demo/files.ts';
import { smfFile } from '../../tests/support/generate.ts';
import { madeSong } from '../../tests/support/made-songs.ts';
import { songOf } from '../../tests/support/songs.ts';
import { runStep } from '../operations/run.ts';
import { readSmf } from '../smf/read.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { notesOf } from '../song/notes.ts';
import type { Song } from '../song/song.ts';
import type { Finding, Settling } from './finding.ts';
import { lookOver, ruleIds } from './look-over.ts';
import { map, part, planted } from '../../tests/support/planted.ts';

const found = (song: Song, rule: string): Finding[] =>
  lookOver(song).filter((f) => f.rule === rule);

describe('issue 10: every rule, by planted cases both ways', () => {
  it('no rule is without them', () => {
    expect(Object.keys(planted).sort()).toEqual([...ruleIds].sort());
  });

  it('planted, found, false (printed): each of the first is found, none of what only looks so', () => {
    const table = Object.entries(planted).map(([rule, { faults, sound }]) => ({
      rule,
      planted: faults.length,
      found: faults.filter((tracks) => found(songOf(...tracks), rule).length > 0).length,
      sound: sound.length,
      false: sound.filter((tracks) => found(songOf(...tracks), rule).length > 0).length,
    }));
    console.log(
      [
        'rule                  planted  found  sound  false',
        ...table.map(
          (r) =>
            `${r.rule.padEnd(22)}${String(r.planted).padStart(7)}${String(r.found).padStart(7)}${String(r.sound).padStart(7)}${String(r.false).padStart(7)}`,
        ),
      ].join('\n'),
    );
    for (const row of table)
      expect([row.rule, row.found, row.false]).toEqual([row.rule, row.planted, 0]);
  });

  it('nothing is found in a song of sound parts', () => {
    expect(lookOver(songOf(map, part(0), part(1), part(2)))).toEqual([]);
  });
});

/** What a rule found where: of the song, or of a track. */
const places = (findings: readonly Finding[]): Set<string> =>
  new Set(
    findings.flatMap((f) =>
      f.tracks.length === 0 ? [f.rule] : f.tracks.map((t) => `${f.rule} ${t}`),
    ),
  );

/** Every note that sounds: when, which key, how loud, how long. Tracks and channels aside. */
function notes(song: Song): string[] {
  return song.tracks
    .flatMap(({ events }) => {
      const { count, on, off } = notesOf(events);
      return Array.from(
        { length: count },
        (_, n) =>
          `${events.atTick[on[n]!]} ${events.data1[on[n]!]} ${events.data2[on[n]!]} ${off[n] === -1 ? 'hangs' : events.atTick[off[n]!]}`,
      );
    })
    .sort();
}

/**
 * What comes to light by a step that did what it says, by the rule that offered it. Behind a stray note
 * nothing is left, and the song still ends there; notes that hung count as long as they sound once they
 * end; values count where others played on the channel, or spoke between them; a part that was split in two
 * counts as two on its channel; a part that plays with one program throughout is held against what that can
 * play; a marker off any line may be near a line that moved.
 */
const comesToLight: Readonly<Record<string, readonly string[]>> = {
  'faulty-notes': ['too-many-voices'],
  'shared-channel': ['unheard-values', 'idle-values'],
  'foreign-controllers': ['idle-values'],
  'meters-in-bar': ['markers-off-bar'],
  'key-switches': ['shared-channel'],
  'programs-inside': ['out-of-range', 'too-many-voices', 'contradicting-name'],
};

/**
 * Rules that judge by a share of a part's notes or values, or by its first note: where a step takes some of
 * them out, what is left is judged alone.
 */
const byShare: ReadonlySet<string> = new Set([
  'unheard-values',
  'off-the-grid',
  'one-velocity',
  'turned-down',
  'gap-before',
  'key-switches',
]);
const takesOut = /^(notes|events\.remove|controllers\.(thin|tidy)|tracks\.(split|remove))/;

/** Findings about how tracks are laid out, not about what is played. */
const layout: ReadonlySet<string> = new Set([
  'unnamed',
  'empty-tracks',
  'set-up-only',
  'shared-channel',
  'several-channels',
  'bank-alone',
]);

/** Steps that are about notes themselves, or take whole parts away. */
const changesNotes = /^(notes|velocity|tracks\.remove|timing\.(snap|length))/;

/**
 * What is found after a step that was not before, and that neither its report names nor could be seen
 * before: rules and tracks.
 */
function newly(song: Song, before: readonly Finding[], finding: Finding, step: Settling): string[] {
  const result = runStep(song, {
    operation: step.operation,
    settings: step.settings,
    scope: step.scope,
  });
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  const after = result.value.song;
  const had = places(before);
  const told = new Set(
    result.value.report.changes.filter((c) => c.detail?.includes('this track')).map((c) => c.track),
  );
  const tellsRepeats = new Set(
    result.value.report.changes
      .filter((c) => c.detail?.includes('now what the one before says'))
      .map((c) => c.track),
  );
  const inherited = new Set(
    before.filter((f) => f.tracks.some((t) => finding.tracks.includes(t))).map((f) => f.rule),
  );
  const old = new Set(song.tracks.map((t) => t.id));
  return [...places(lookOver(after))].filter((place) => {
    const [rule, track] = place.split(' ') as [string, string?];
    if (rule === 'idle-values' && tellsRepeats.has(track)) return false;
    if (had.has(place) || comesToLight[finding.rule]?.includes(rule)) return false;
    // Of parts that were hidden in one track what they play is heard alone now.
    if (finding.rule === 'several-channels' && !layout.has(rule)) return false;
    if (byShare.has(rule) && takesOut.test(step.operation)) return false;
    // The song's end stays where it was, whatever a step took out before it.
    if (rule === 'late-end') return endOfSong(after) > endOfSong(song);
    if (track && old.has(track)) return !(layout.has(rule) && told.has(track));
    return !track || !(inherited.has(rule) || layout.has(rule));
  });
}

const endOfSong = ({ tracks }: Song): number =>
  Math.max(...tracks.map((t) => t.events.atTick[t.events.count - 1]!));

describe('issue 10: steps that the look-over offers', () => {
  const cases = Object.entries(planted).flatMap(([rule, { faults }]) =>
    faults.flatMap((tracks, n) =>
      found(songOf(...tracks), rule).flatMap((f) =>
        f.settle.map(
          (s) =>
            [
              `${rule} ${n + 1}: ${s.title}`,
              { rule, song: songOf(...tracks), finding: f, step: s },
            ] as const,
        ),
      ),
    ),
  );

  it.each(cases)(
    '%s makes no new finding, settles its own, and changes no note unless it says so',
    (_, { rule, song, finding, step }) => {
      const result = runStep(song, {
        operation: step.operation,
        settings: step.settings,
        scope: step.scope,
      });
      if (!result.ok) throw new Error(JSON.stringify(result.problem));
      const after = result.value.song;
      expect(newly(song, lookOver(song), finding, step)).toEqual([]);
      expect(
        found(after, rule).filter((f) => f.key === finding.key && f.count >= finding.count),
      ).toEqual([]);
      if (!changesNotes.test(step.operation)) expect(notes(after)).toEqual(notes(song));
    },
  );

  it('of one finding each has a title of its own, and no two findings of a song share one', () => {
    for (const { faults } of Object.values(planted)) {
      for (const tracks of faults) {
        const all = lookOver(songOf(...tracks));
        for (const f of all)
          expect(new Set(f.settle.map((s) => s.title)).size).toBe(f.settle.length);
        expect(new Set(all.map((f) => f.title)).size).toBe(all.length);
      }
    }
  });
});

/** The new findings of every step that is offered: title, step, and what is found where. */
function newlyByAny(song: Song): [string, string, string[]][] {
  const before = lookOver(song);
  return before
    .flatMap((f) =>
      f.settle.map((step): [string, string, string[]] => [
        f.title,
        step.title,
        newly(song, before, f, step),
      ]),
    )
    .filter(([, , made]) => made.length > 0);
}

describe('issue 10: the same over the demo’s files and over songs made at random', () => {
  const songs = demoFiles.flatMap(({ name: called, bytes }): [string, Song][] => {
    const reading = readSmf(bytes());
    return reading.ok ? songsFromSmf(reading.value.smf, called).map((song) => [called, song]) : [];
  });

  it.each(songs)(
    '%s: no step that is offered makes a new finding where there was none',
    (_, song) => {
      expect(newlyByAny(song)).toEqual([]);
    },
  );

  it('made songs: parts with overlapping and hanging notes, lanes, programs, ports', () => {
    fc.assert(
      fc.property(madeSong, (song) => {
        expect(newlyByAny(song)).toEqual([]);
      }),
      { seed: 5, numRuns: scaleRuns(150) },
    );
  });

  it('whatever a valid file may hold', () => {
    fc.assert(
      fc.property(smfFile(), (smf) => {
        for (const song of songsFromSmf(smf, 'made.mid')) expect(newlyByAny(song)).toEqual([]);
      }),
      { seed: 5, numRuns: scaleRuns(150) },
    );
  });
});
