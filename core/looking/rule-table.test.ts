import { describe, expect, it } from 'vitest';
import { demoFiles } from '../../demo/files.ts';
import { songOf } from '../../tests/support/songs.ts';
import { runStep } from '../operations/run.ts';
import { readSmf } from '../smf/read.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { notesOf } from '../song/notes.ts';
import type { Song } from '../song/song.ts';
import type { Finding } from './finding.ts';
import { lookOver, ruleIds } from './look-over.ts';
import { map, part, planted } from '../../tests/support/planted.ts';

const found = (song: Song, rule: string): Finding[] => lookOver(song).filter((f) => f.rule === rule);

describe('issue 10: every rule, by planted cases both ways', () => {
  it('no rule is without them', () => {
    expect(Object.keys(planted).sort()).toEqual([...ruleIds].sort());
  });

  it('planted, found, false (printed): each of the first is found, none of what only looks so', () => {
    const table = Object.entries(planted).map(([rule, { faults, sound }]) => ({ rule, planted: faults.length, found: faults.filter((tracks) => found(songOf(...tracks), rule).length > 0).length, sound: sound.length, false: sound.filter((tracks) => found(songOf(...tracks), rule).length > 0).length }));
    console.log(['rule                  planted  found  sound  false', ...table.map((r) => `${r.rule.padEnd(22)}${String(r.planted).padStart(7)}${String(r.found).padStart(7)}${String(r.sound).padStart(7)}${String(r.false).padStart(7)}`)].join('\n'));
    for (const row of table) expect([row.rule, row.found, row.false]).toEqual([row.rule, row.planted, 0]);
  });

  it('nothing is found in a song of sound parts', () => {
    expect(lookOver(songOf(map, part(0), part(1), part(2)))).toEqual([]);
  });
});

/** What a rule found where: of the song, or of a track. */
const places = (song: Song): Set<string> => new Set(lookOver(song).flatMap((f) => (f.tracks.length === 0 ? [f.rule] : f.tracks.map((t) => `${f.rule} ${t}`))));

/** Every note that sounds: when, which key, how loud, how long. Tracks and channels aside. */
function notes(song: Song): string[] {
  return song.tracks.flatMap(({ events }) => {
    const { count, on, off } = notesOf(events);
    return Array.from({ length: count }, (_, n) => `${events.atTick[on[n]!]} ${events.data1[on[n]!]} ${events.data2[on[n]!]} ${off[n] === -1 ? 'hangs' : events.atTick[off[n]!]}`);
  }).sort();
}

/** What comes to light by a step that did what it says: behind a stray note nothing is left, and the song still ends there. */
const comesToLight: Readonly<Record<string, readonly string[]>> = { strays: ['late-end'] };

/** Steps that are about notes themselves, or take whole parts away. */
const changesNotes = /^(notes|velocity|tracks\.remove|timing\.(snap|length))/;

describe('issue 10: steps that the look-over offers', () => {
  const cases = Object.entries(planted).flatMap(([rule, { faults }]) => faults.flatMap((tracks, n) => found(songOf(...tracks), rule).flatMap((f) => f.settle.map((s) => [`${rule} ${n + 1}: ${s.title}`, { rule, song: songOf(...tracks), finding: f, step: s }] as const))));

  it.each(cases)('%s makes no new finding, settles its own, and changes no note unless it says so', (_, { rule, song, finding, step }) => {
    const result = runStep(song, { operation: step.operation, settings: step.settings, scope: step.scope });
    if (!result.ok) throw new Error(JSON.stringify(result.problem));
    const after = result.value.song;
    const had = places(song);
    expect([...places(after)].filter((place) => !had.has(place) && !comesToLight[rule]?.includes(place))).toEqual([]);
    expect(found(after, rule).filter((f) => f.key === finding.key && f.count >= finding.count)).toEqual([]);
    if (!changesNotes.test(step.operation)) expect(notes(after)).toEqual(notes(song));
  });

  it('of one finding each has a title of its own, and no two findings of a song share one', () => {
    for (const { faults } of Object.values(planted)) {
      for (const tracks of faults) {
        const all = lookOver(songOf(...tracks));
        for (const f of all) expect(new Set(f.settle.map((s) => s.title)).size).toBe(f.settle.length);
        expect(new Set(all.map((f) => f.title)).size).toBe(all.length);
      }
    }
  });
});

/** Findings about how tracks are laid out, not about what is played. */
const layout: ReadonlySet<string> = new Set(['unnamed', 'empty-tracks', 'set-up-only', 'shared-channel', 'several-channels', 'bank-alone']);

describe('issue 10: the same over the demo’s files', () => {
  const songs = demoFiles.flatMap(({ name: called, bytes }): [string, Song][] => {
    const reading = readSmf(bytes());
    return reading.ok ? songsFromSmf(reading.value.smf, called).map((song) => [called, song]) : [];
  });

  it.each(songs)('%s: no step that is offered makes a new finding where there was none', (_, song) => {
    const had = places(song);
    for (const f of lookOver(song)) {
      for (const { operation, settings, scope } of f.settle) {
        const result = runStep(song, { operation, settings, scope });
        if (!result.ok) throw new Error(JSON.stringify(result.problem));
        const before = new Set(song.tracks.map((t) => t.id));
        const made = [...places(result.value.song)].filter((place) => !had.has(place) && !comesToLight[f.rule]?.includes(place.split(' ')[0]!));
        // Of parts that were hidden in one track what they play is heard now; that they have names and do not stand empty is the step's own.
        expect([f.title, operation, made.filter((place) => before.has(place.split(' ')[1] ?? '') || layout.has(place.split(' ')[0]!))]).toEqual([f.title, operation, []]);
      }
    }
  });
});
