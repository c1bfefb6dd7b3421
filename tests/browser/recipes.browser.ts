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
  await expect(report).toContainText('What it would do');
  expect((await api.song(capture.id)).revision).toBe(0);
  await page.getByRole('button', { name: 'Run on 2 songs' }).click();
  await expect(report).toContainText('What it did');
  await expect(report).toContainText('31,656 controllers');
  await expectAccessible(page);
  const { tracks } = readIndependently((await api.handOff(capture.id)).bytes);
  expect(tracks.flat().filter((e) => / [abcdef][0-9a-e]/.test(e) && !/ ff/.test(e))).toEqual([]);
  await report.getByRole('link', { name: 'one for all' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
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
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('button', { name: /^Seventy/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.getByRole('button', { name: /^Seventy/ })).toBeVisible();
});
