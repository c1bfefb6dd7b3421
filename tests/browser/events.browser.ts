import { readIndependently } from '../support/independent.ts';
import { choose, demo, expect, expectAccessible, row, test } from './fixture.ts';

test('the event list shows every event by name, filters, and deletes exactly what is chosen', async ({
  page,
  api,
}) => {
  const file = demo('The Lantern Ferry.mid');
  const before = readIndependently(file).tracks;
  const { id } = await api.bring('events.mid', file);
  await page.goto(`/songs/${id}`);
  await row(page, 'Clarinet').first().click();
  await page.getByRole('link', { name: /Event list/ }).click();
  const list = page.getByRole('listbox', { name: 'Events' });
  await expect(page.getByText('429 events')).toBeVisible();
  await expect(list.getByRole('option').first()).toContainText('Track name');
  await choose(page.getByLabel('Show'), 'notes');
  await expect(page.getByText('212 events')).toBeVisible();
  await page.getByRole('searchbox').fill('D5');
  await expect(list.getByRole('option').first()).toContainText('D5, velocity');
  const shown = Number((await page.getByText(/^\d+ events/).textContent())!.split(' ')[0]);
  expect(shown).toBe(before[2]!.filter((e) => / 914a(?!00)/.test(e)).length);
  await expectAccessible(page);
  await list.getByRole('option').first().click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Delete');
  await expect(
    page
      .getByText('Deleted 2 notes in Clarinet')
      .or(page.getByText('Deleted 2 events in Clarinet')),
  ).toBeVisible();
  await expect(page.getByText(`${shown - 2} events`)).toBeVisible();
  const after = readIndependently((await api.handOff(id)).bytes).tracks;
  expect(after.filter((_, i) => i !== 2)).toEqual(before.filter((_, i) => i !== 2));
  expect(after[2]!.length).toBe(before[2]!.length - 4);
  await page.keyboard.press('Control+z');
  await expect(page.getByText(`${shown} events`)).toBeVisible();
});
