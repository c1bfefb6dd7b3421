import { demo, expect, row, test } from './fixture.ts';

test('any step is begun by its name from any view, has the focus, and is done by Enter; Escape in the filter shows all again', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await row(page, 'Clarinet').first().click();
  // From another view: the sheet is gone to, where the step is for the track that is selected.
  await page.getByRole('link', { name: 'Notes' }).click();
  await expect(page.getByRole('application')).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('double a');
  await expect(page.getByRole('option', { name: 'Double a part …' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('On Clarinet', { exact: true })).toBeVisible();
  const step = page.getByRole('region', { name: 'Step' });
  await expect(step).toBeFocused();
  await expect(page.getByRole('button', { name: 'Do it' })).toBeEnabled();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Doubled \d+ notes on Clarinet, octave down/).first()).toBeVisible();
  // Enter in a field does the step as well.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('transpose');
  await page.keyboard.press('Enter');
  await expect(step).toBeFocused();
  await page.getByRole('spinbutton', { name: 'Semitones' }).fill('2');
  await expect(page.getByRole('button', { name: 'Do it' })).toBeEnabled();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Transposed \d+ notes in Clarinet by \+2/).first()).toBeVisible();
  // The margin's list of steps, by what they say.
  const find = page.getByRole('searchbox', { name: 'Find a step' });
  await find.fill('grid');
  await expect(page.getByRole('button', { name: 'Quantise …' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Double a part …' })).toHaveCount(0);
  await find.fill('nothing of the kind');
  await expect(page.getByText('No step of that name')).toBeVisible();
  await find.press('Escape');
  await expect(page.getByRole('button', { name: 'Double a part …' })).toBeVisible();
  await find.fill('quantise');
  await find.press('Enter');
  await expect(page.getByRole('region', { name: 'Step' })).toContainText('Quantise');
});
