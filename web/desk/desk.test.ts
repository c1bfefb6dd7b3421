import { describe, expect, it } from 'vitest';
import { controller, note, songOf, take } from '../../tests/support/songs.ts';
import { Desk, type SongOutline } from './desk.ts';
import { pictureOf } from './picture.ts';

const song = songOf(
  [],
  [...note(0, 96, 60), ...note(400, 96, 62), controller(10, 7, 90), controller(20, 7, 90)],
);
const outline: SongOutline = {
  title: 'x',
  format: 1,
  division: song.division,
  chunks: [],
  encoding: 'UTF-8',
  tracks: song.tracks.map((t) => ({ id: t.id, sha256: `hash of ${t.id}` })),
};

function desk(): { desk: Desk; fetched: string[] } {
  const fetched: string[] = [];
  return {
    fetched,
    desk: new Desk(
      (hashes) => (
        fetched.push(...hashes),
        Promise.resolve(hashes.map((hash) => song.tracks.find((t) => hash.endsWith(t.id))!.events))
      ),
    ),
  };
}

describe('the desk', () => {
  it('says what the same step says elsewhere, with the tracks as they would be and the stretch that changes', async () => {
    const trial = await desk().desk.tryStep(outline, 3, {
      operation: 'notes.transpose',
      settings: { semitones: 12 },
    });
    if (!trial.ok) throw new Error(trial.problem.code);
    const { report, described } = take(song, 'notes.transpose', { semitones: 12 });
    expect(trial.value).toMatchObject({
      revision: 3,
      changed: true,
      preview: true,
      report,
      described,
    });
    expect(trial.value.after!.map((t) => [t.id, t.pitch])).toEqual([
      ['t2', { lowest: 72, highest: 74 }],
    ]);
    expect(trial.value.pictures.t2!.notes!.after.map((n) => n[2])).toEqual([72, 74]);
  });

  it('has the tempos as they would be where a step changes them, and none where it changes others', async () => {
    const tried = async (operation: string, settings: object) => {
      const trial = await desk().desk.tryStep(outline, 0, { operation, settings });
      return trial.ok ? trial.value.tempos : trial.problem;
    };
    expect(await tried('timing.tempo', { bpm: 100 })).toEqual([{ atTick: 0, tempo: 600_000 }]);
    expect(await tried('notes.transpose', { semitones: 1 })).toBeUndefined();
    // In other ticks the places would not be those of the line.
    expect(await tried('timing.resolution', { ppq: 480 })).toBeUndefined();
  });

  it('fetches each track once, and a changed one anew', async () => {
    const { desk: d, fetched } = desk();
    await d.tryStep(outline, 0, { operation: 'notes.repair' });
    await d.tryStep(outline, 0, { operation: 'notes.repair' });
    await d.tryStep(
      { ...outline, tracks: [outline.tracks[0]!, { id: 't2', sha256: 'other hash of t2' }] },
      1,
      { operation: 'notes.repair' },
    );
    expect(fetched).toEqual(['hash of t1', 'hash of t2', 'other hash of t2']);
  });

  it('gives a refusal as the server would', async () => {
    const trial = await desk().desk.tryStep(outline, 0, {
      operation: 'notes.transpose',
      settings: { semitones: 999 },
    });
    expect(trial).toMatchObject({
      ok: false,
      problem: { code: 'settings-invalid', where: { field: 'settings.semitones' } },
    });
  });

  it('keeps parked lanes parked', async () => {
    const parked = { ...outline, tracks: outline.tracks.map((t) => ({ ...t, parked: ['0:7'] })) };
    const trial = await desk().desk.tryStep(parked, 0, { operation: 'controllers.thin' });
    expect(trial.ok && trial.value.changed).toBe(false);
  });
});

describe('what repeats', () => {
  it('has a letter for each phrase of the song, to its last bar', async () => {
    // Bars of 4/4 are 384 ticks at 96 to the quarter, and the last note ends at 496: two bars, one phrase.
    expect(await desk().desk.repeats(outline)).toEqual([{ name: 'A', from: 1, to: 2, sure: 1 }]);
  });
});

describe('the stretch that changes', () => {
  const picture = (operation: string, settings: object) =>
    pictureOf(
      song.tracks[1]!.events,
      take(song, operation, settings).song.tracks[1]!.events,
      song.division,
    );

  it('is notes where notes change, a lane where a lane does, nothing where neither does', () => {
    expect(picture('velocity.set', { to: 5 })!.notes!.after.map((n) => n[3])).toEqual([5, 5]);
    expect(picture('controllers.thin', {})).toMatchObject({
      lane: {
        what: 7,
        before: [
          [10, 90],
          [20, 90],
        ],
        after: [[10, 90]],
      },
    });
    expect(picture('controllers.thin', {})!.notes).toBeUndefined();
    expect(picture('tracks.rename', { name: 'New' })).toBeUndefined();
  });

  it('begins at the quarter before the first change', () => {
    expect(picture('notes.remove', { lowestKey: 62, highestKey: 62 })!.from).toBe(288);
  });
});
