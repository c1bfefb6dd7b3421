import { readIndependently } from '../support/independent.ts';
import { choose, demo, expect, expectAccessible, row, test } from './fixture.ts';

test('a shipped recipe is seen, run on two songs at once, and undone in one', async ({
  page,
  api,
}) => {
  const capture = await api.bring('one for all.mid', demo('instrument capture.mid'));
  await api.bring('two for all.mid', demo('market groove.mid'));
  await page.goto('/');
  await page.getByRole('link', { name: 'Recipes' }).click();
  await page.getByRole('button', { name: /^Notes only/ }).click();
  await expectAccessible(page);
  await page.getByRole('checkbox', { name: /^one for all/ }).check();
  await page.getByRole('checkbox', { name: /^two for all/ }).check();
  await page.getByRole('button', { name: 'See what it would do' }).click();
  const report = page.getByRole('region', { name: 'Report' });
  const songs = page.getByRole('list', { name: 'Songs' });
  await expect(report).toContainText('Seen on 2 songs: would change');
  await expect(songs).toContainText('Would touch');
  expect((await api.song(capture.id)).revision).toBe(0);
  const run = page.getByRole('button', { name: 'Run on 2 songs' });
  await run.click();
  await expect(report).toContainText('Ran on 2 songs');
  await expect(songs).toContainText('31,656 controllers');
  // It is disarmed: no song is chosen, the focus is at what was done.
  await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeDisabled();
  await expect(report.getByRole('status')).toBeFocused();
  await expectAccessible(page);
  const { tracks } = readIndependently((await api.handOff(capture.id)).bytes);
  expect(tracks.flat().filter((e) => / [abcdef][0-9a-e]/.test(e) && !/ ff/.test(e))).toEqual([]);
  await report.getByRole('button', { name: /^Undo/ }).click();
  await expect(report).toContainText('undone again');
  await expect(report.getByRole('status')).toBeFocused();
  await songs.getByRole('link', { name: 'Open one for all' }).click();
  await expect(row(page, 'Track 1')).toContainText('Violin');
});

test('steps of a history become a recipe, which is changed, kept and run on some tracks of another song', async ({
  page,
  api,
}) => {
  const first = await api.bring('first.mid', demo('phone sketch.mid'));
  await api.step(first.id, 1, 'velocity.set', { to: 70 }, ['t2']);
  await api.step(first.id, 2, 'notes.transpose', { semitones: -12 }, 'all');
  await api.step(first.id, 3, 'events.delete', { rows: { t2: [[2, 2]] } });
  await page.goto(`/songs/${first.id}/history`);
  await expect(page.getByLabel(/Into a recipe: Deleted/)).toBeDisabled();
  await page.getByLabel(/Into a recipe: Transposed/).check();
  await page.getByLabel(/Into a recipe: Velocity set to 70/).check();
  await page.getByRole('button', { name: 'Make a recipe of 2 steps' }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('As on first');
  await page.getByLabel('Name', { exact: true }).fill('Seventy, an octave down');
  await choose(page.getByLabel('Step 1 is for'), 'all but the drums');
  // What is not saved is told apart, also from the list, and stays while one looks elsewhere.
  await expect(page.getByText('Changed, not saved.')).toBeVisible();
  await page.getByRole('button', { name: /^Notes only/ }).click();
  await page.getByRole('button', { name: /not saved/ }).click();
  await expect(page.getByLabel('Step 1 is for')).toContainText('all but the drums');
  await page.getByRole('button', { name: 'Step 2 earlier' }).click();
  await choose(page.getByLabel('Add a step'), 'Repair notes');
  await page.getByRole('button', { name: 'Take step 3 out' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Seventy, an octave down/ })).toBeVisible();
  await page.reload();
  await expect(
    page.getByRole('list', { name: 'Steps' }).getByRole('listitem').first(),
  ).toContainText('Transpose');
  const other = await api.bring('other.mid', demo('instrument capture.mid'));
  await page.goto(`/songs/${other.id}`);
  await row(page, 'Track 2').click();
  await page.getByRole('button', { name: 'Seventy, an octave down' }).click();
  const step = page.getByRole('region', { name: 'Step' });
  await expect(step).toContainText('On Track 2');
  await expect(step).toContainText('It would touch 76 notes');
  await step.getByRole('button', { name: 'Do it' }).click();
  await expect(step).toHaveCount(0);
  const song = await api.song(other.id);
  expect(song.tracks.map((t) => t.velocity?.lowest)).toEqual([undefined, 64, 70, 64, 64]);
  await page.goto('/recipes');
  await page.getByRole('button', { name: /^Seventy/ }).click();
  // For songs whose tracks have no names: by number, by program, by what they do.
  await choose(page.getByLabel('Step 1 is for'), 'tracks by number …');
  await page.getByLabel('numbers on the sheet').fill('3');
  await page.getByRole('checkbox', { name: /^other/ }).check();
  await page.getByRole('button', { name: 'See what it would do' }).click();
  await expect(page.getByRole('list', { name: 'Songs' })).toContainText('Would touch');
  await page.getByLabel('numbers on the sheet').fill('9');
  await expect(page.getByRole('list', { name: 'Songs' })).not.toContainText('Would touch');
  await page.getByRole('button', { name: 'See what it would do' }).click();
  await expect(page.getByRole('list', { name: 'Songs' })).toContainText('found no such track');
  await choose(page.getByLabel('Step 1 is for'), 'what they do …');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Back to what is saved' }).click();
  await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('button', { name: /^Seventy/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.getByRole('button', { name: /^Seventy/ })).toBeVisible();
});
