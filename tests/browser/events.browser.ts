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

test('several events are edited at once: the same for all, or so much more, in one step', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('several.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}/events`);
  await choose(page.getByRole('combobox', { name: 'Show' }), 'controllers');
  const list = page.getByRole('listbox', { name: 'Events' });
  await page.getByLabel('Words in the event').fill('pan');
  await expect(page.getByText('12 events', { exact: true })).toBeVisible();
  await list.focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Enter');
  const form = page.getByRole('region', { name: 'Edit several events' });
  await expect(form.getByLabel('Controller')).toHaveAttribute('placeholder', '10');
  // The focus is where the value is; Enter does it, and the focus is back in the list.
  await page.keyboard.type('+5');
  await expectAccessible(page);
  const pans = async (): Promise<number[]> =>
    readIndependently((await api.handOff(id)).bytes).tracks.flatMap((t) =>
      t.flatMap((e) => {
        const pan = / b[0-9a-f]0a([0-9a-f]{2})$/.exec(e);
        return pan ? [parseInt(pan[1]!, 16)] : [];
      }),
    );
  const before = await pans();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Messages' })).toContainText('Edited 12 events');
  expect(await pans()).toEqual(before.map((pan) => Math.min(127, pan + 5)));
  expect((await api.song(id)).revision).toBe(1);
  await expect(list).toBeFocused();
  await expect(page.getByText('12 events, 12 selected')).toBeVisible();
  // Of several kinds: the channel alone.
  await page.getByLabel('Words in the event').fill('');
  await choose(page.getByRole('combobox', { name: 'Show' }), 'all but notes');
  await list.focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Enter');
  await expect(form).toContainText('choose events of one kind');
  await page.keyboard.press('Escape');
});
