import { describe, expect, it } from 'vitest';
import { plainEvents } from '../../tests/support/independent.ts';
import { controller, note, refusal, songOf, take } from '../../tests/support/songs.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import { lookOver } from '../looking/look-over.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { instrumentCapture } from '../../demo/arrivals.ts';
import { meaningOf, type Meaning } from './recipe/run/meaning.ts';
import { meaningText } from './recipe/run/meaning-text.ts';
import { tracksMeant } from './recipe/run/tracks-meant.ts';
import { recipeSchema } from './recipe/run/recipe.ts';
import { shippedRecipes } from './recipe/run/shipped.ts';
import { findOperation } from './find.ts';

const named = (name: string, ...events: EventValue[]): EventValue[] => [
  metaEvent(0, meta.trackName, encodeText(name)),
  ...events,
];
const song = songOf(
  named('Map', metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20))),
  named(
    'Violin',
    channelEvent(0, 0xc0, 40),
    controller(0, 91, 40),
    ...note(0, 96, 60),
    ...note(96, 96, 62),
  ),
  named('Drums', ...note(0, 96, 36, 80, 9)),
  named('Flute', channelEvent(0, 0xc2, 73), ...note(0, 96, 72, 80, 2)),
);
const recipe = (...steps: object[]) => ({ name: 'Test', steps });

describe('who a step of a recipe is for', () => {
  it.each<[Meaning, string[]]>([
    ['all', ['t1', 't2', 't3', 't4']],
    ['drums', ['t3']],
    ['pitched', ['t2', 't4']],
    [{ named: ['violin', 'Flute '] }, ['t2', 't4']],
    [{ families: ['Pipe'] }, ['t4']],
    [{ families: ['Strings', 'Pipe'] }, ['t2', 't4']],
    [{ families: ['Organ'] }, []],
    [{ numbered: [2, 4] }, ['t2', 't4']],
    [{ programs: [41] }, ['t2']],
    [{ roles: ['drums'] }, ['t3']],
  ])('%j', (meaning, ids) => {
    const meant = tracksMeant(song, song.tracks, meaning, 'x');
    expect(meant.ok && meant.value.map((t) => t.id)).toEqual(ids);
  });

  it('is said by name where a step was taken on single tracks, and by number where one has none', () => {
    const tracks = [
      { id: 't1', name: 'Violin' },
      { id: 't2', name: '' },
    ];
    const gone = new Map([['t9', 'Gone']]);
    expect(meaningOf({ tracks }, ['t1', 't9'], gone)).toEqual({ named: ['Violin', 'Gone'] });
    expect(meaningOf({ tracks }, ['t1', 't2', 't9'], gone)).toEqual({ numbered: [1, 2] });
    // Never "all": a step on one track that is gone was for that track alone.
    expect(meaningOf({ tracks }, ['t8'], new Map())).toBeUndefined();
    expect(meaningOf({ tracks }, 'all', new Map())).toBe('all');
  });

  it('goes by the song as the recipe found it: numbers, roles, and programs that a step took out', () => {
    const steps = (who: Meaning): object[] => [
      { operation: 'tracks.remove', who: { named: ['Violin'] } },
      { operation: 'events.remove', settings: { kinds: ['programs'] } },
      { operation: 'velocity.set', settings: { to: 9 }, who },
    ];
    const set = (who: Meaning): (string | undefined)[] =>
      take(song, 'recipe.run', recipe(...steps(who)))
        .report.changes.filter((c) => c.detail?.startsWith('step 3'))
        .map((c) => c.track);
    expect(set({ numbered: [4] })).toEqual(['t4']);
    expect(set({ programs: [74] })).toEqual(['t4']);
    expect(set({ families: ['Pipe'] })).toEqual(['t4']);
    expect(set({ roles: ['drums'] })).toEqual(['t3']);
    expect(refusal(song, 'recipe.run', recipe(...steps({ numbered: [5] })))).toBe(
      'recipe-tracks-missing',
    );
  });

  it.each<[Meaning, string]>([
    [{ numbered: [3] }, 'track 3'],
    [{ numbered: [3, 5] }, 'tracks 3, 5'],
    [{ programs: [33] }, '33 Acoustic Bass'],
    [{ roles: ['bass', 'line'] }, 'bass parts, line parts'],
    [{ families: ['Strings'] }, 'strings family'],
  ])('reads %j as %s', (meaning, text) => expect(meaningText(meaning)).toBe(text));
});

describe('running a recipe', () => {
  it('does the same as its steps one after the other', () => {
    const first = take(song, 'events.keep-notes').song;
    const byHand = take(first, 'velocity.set', { add: 10 }, { tracks: ['t2', 't4'] }).song;
    const {
      song: after,
      report,
      described,
    } = take(
      song,
      'recipe.run',
      recipe(
        { operation: 'events.keep-notes' },
        { operation: 'velocity.set', settings: { add: 10 }, who: 'pitched' },
      ),
    );
    expect(after.tracks.map((t) => plainEvents(t.events))).toEqual(
      byHand.tracks.map((t) => plainEvents(t.events)),
    );
    expect(report.changes.map((c) => [c.track, c.detail])).toEqual([
      ['t2', 'step 1'],
      ['t4', 'step 1'],
      ['t2', 'step 2'],
      ['t4', 'step 2'],
    ]);
    expect(described).toBe('Ran “Test”: 2 steps on 2 tracks');
  });

  it('keeps to the tracks that are selected, and to those that its own steps added', () => {
    const { song: after } = take(
      song,
      'recipe.run',
      recipe(
        { operation: 'tracks.split-by-pitch', settings: { key: 61 } },
        { operation: 'velocity.set', settings: { to: 9 } },
      ),
      { tracks: ['t2'] },
    );
    const velocities = after.tracks.map((t) =>
      plainEvents(t.events)
        .filter((e) => / 9./.test(e))
        .map((e) => e.slice(-2)),
    );
    expect(velocities).toEqual([[], ['09'], ['09'], ['50'], ['50']]);
  });

  it('says which steps found nobody or nothing', () => {
    const { report } = take(
      song,
      'recipe.run',
      recipe(
        { operation: 'velocity.set', settings: { add: 1 }, who: { families: ['Organ'] } },
        { operation: 'notes.repair' },
        { operation: 'velocity.set', settings: { add: 1 } },
      ),
    );
    expect(report.skipped.map((s) => s.why)).toEqual([
      'Step 1, Set or scale velocity, is for organ family: there are none here.',
      'Step 2, Repair notes, had nothing to do. Its notes are sound.',
    ]);
  });

  it('is refused whole where a part is missing, a setting wrong, or a step names places of one song', () => {
    const good = { operation: 'events.keep-notes' };
    expect(
      refusal(
        song,
        'recipe.run',
        recipe(good, { operation: 'velocity.set', who: { named: ['Oboe'] } }),
      ),
    ).toBe('recipe-tracks-missing');
    expect(
      refusal(
        song,
        'recipe.run',
        recipe(good, { operation: 'velocity.set', settings: { to: 500 } }),
      ),
    ).toBe('settings-invalid');
    expect(
      refusal(
        song,
        'recipe.run',
        recipe(good, { operation: 'events.delete', settings: { rows: { t1: [[0, 0]] } } }),
      ),
    ).toBe('settings-invalid');
    expect(refusal(song, 'recipe.run', recipe(good, { operation: 'no.such' }))).toBe(
      'operation-unknown',
    );
    expect(refusal(song, 'recipe.run', recipe(good, { operation: 'tracks.remove' }))).toBe(
      'no-track-left',
    );
    expect(refusal(song, 'recipe.run', { name: 'Test', steps: [] })).toBe('settings-invalid');
  });
});

describe('the shipped recipes', () => {
  it.each(shippedRecipes.map((r) => [r.name, r] as const))(
    '%s is whole, explained, and does something for the worst file',
    (_, { id, ...shipped }) => {
      expect(recipeSchema.safeParse(shipped).success, id).toBe(true);
      expect(shipped.about.length).toBeGreaterThan(40);
      for (const step of shipped.steps) {
        const operation = findOperation(step.operation);
        expect(operation?.settings.safeParse(step.settings).success, step.operation).toBe(true);
        expect(operation?.byHand).toBeUndefined();
      }
      const worst = songsFromSmf(instrumentCapture(), 'x.mid')[0]!;
      expect(
        take(worst, 'recipe.run', { name: shipped.name, steps: shipped.steps }).report.changes
          .length,
      ).toBeGreaterThan(0);
    },
  );

  it('leave no finding of what they are for', () => {
    const worst = songsFromSmf(instrumentCapture(), 'x.mid')[0]!;
    const rules = (id: string): string[] => {
      const { name, steps } = shippedRecipes.find((r) => r.id === id)!;
      return [
        ...new Set(lookOver(take(worst, 'recipe.run', { name, steps }).song).map((f) => f.rule)),
      ];
    };
    expect(rules('notes-only')).toEqual(['one-velocity', 'unnamed']);
    expect(
      rules('another-instrument').filter((r) =>
        [
          'foreign-controllers',
          'programs-inside',
          'system-exclusive',
          'left-hanging',
          'bank-alone',
        ].includes(r),
      ),
    ).toEqual([]);
    expect(rules('flat-velocities')).not.toContain('one-velocity');
    expect(
      rules('lighten').filter((r) => ['floods', 'idle-values', 'unheard-values'].includes(r)),
    ).toEqual([]);
  });
});
