import type { Page } from '@playwright/test';
import { shippedReceivers } from '#core/handoff/receiver/shipped.ts';
import { receiverFileSchema } from '#core/handoff/receiver/receiver.ts';
import type { Api } from '../support/api.ts';
import { breaches } from '../support/receiving.ts';
import { demo, downloaded, expect, expectAccessible, row, test } from './fixture.ts';

async function openFerry(page: Page, api: Api): Promise<string> {
  const { id } = await api.bring('Crossing.mid', demo('The Lantern Ferry.mid'));
  await api.step(id, 0, 'timing.sections');
  await page.goto(`/songs/${id}/out`);
  return id;
}
const makes = (page: Page) => page.getByRole('button', { name: /^Make the/ });
const forecast = (page: Page) => page.getByRole('region', { name: 'Forecast' });
const list = (page: Page) => page.getByRole('listbox', { name: 'For whom' });

test('each receiver is chosen by keys and sets everything; three presses lead from the song to its file', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('Crossing.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await page.getByRole('link', { name: /^Hand off/ }).click();
  await page.getByRole('option', { name: 'Keyboard or sound module' }).click();
  await makes(page).click();
  const slip = page.getByRole('article', { name: 'Slip' });
  await expect(slip).toContainText('for Keyboard or sound module');
  await expect(page.getByRole('link', { name: 'Download' })).toBeFocused();
  const { name, bytes } = await downloaded(page, () => page.keyboard.press('Enter'));
  const keyboard = shippedReceivers.find((r) => r.id === 'keyboard')!;
  expect(breaches(bytes, name, keyboard.takes)).toEqual([]);
  await page.getByRole('button', { name: 'What would leave now' }).click();
  // By keys: from one to the next, and by its digit at once.
  await list(page).focus();
  await page.keyboard.press('0');
  for (const receiver of shippedReceivers) {
    await page.keyboard.press('ArrowDown');
    const chosen = page.getByRole('option', { selected: true });
    await expect(chosen).toContainText(receiver.name);
    await expect(list(page)).toBeFocused();
  }
  await page.keyboard.press('7');
  await expect(page.getByRole('option', { selected: true })).toContainText('Picture editor');
  await expect(forecast(page)).toContainText('3,687 notes do not arrive');
  await expect(page.getByRole('radio', { name: /The map alone/ })).toBeChecked();
  await expectAccessible(page);
});

test(
  'a forecast names what is lost with its remedy; the remedy is a press, and what it was for is gone',
  { tag: '@quick' },
  async ({ page, api }) => {
    await openFerry(page, api);
    await expect(forecast(page)).toContainText('Everything arrives');
    await list(page).focus();
    await page.keyboard.press('4');
    const drift = forecast(page)
      .getByRole('listitem')
      .filter({ hasText: 'sound earlier or later' });
    await expect(drift).toContainText('up to');
    await drift.getByRole('button', { name: /Place it anew at one tempo/ }).click();
    await expect(drift).toHaveCount(0);
    await expect(forecast(page)).toContainText('stand at other places in the bars');
    // What was changed by hand is marked, and the way back is the receiver itself.
    const tempo = page.getByRole('button', { name: /^Tempo/ });
    await expect(tempo.getByLabel('set by hand')).toBeVisible();
    await list(page).focus();
    await page.keyboard.press('4');
    await expect(tempo.getByLabel('set by hand')).toHaveCount(0);
    await expect(drift).toHaveCount(1);
  },
);

test('a remedy that is a step is prepared on the song, and seen before it is taken', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('hand.mid', demo('instrument capture.mid'));
  await api.step(id, 0, 'controllers.park', { lanes: [11] });
  await page.goto(`/songs/${id}/out`);
  const parked = forecast(page).getByRole('listitem').filter({ hasText: 'parked events' });
  await parked.getByRole('button', { name: 'Unpark them' }).click();
  const step = page.getByRole('region', { name: 'Step' });
  await expect(step).toContainText('Unpark lanes');
  await step.getByRole('button', { name: 'Do it' }).click();
  await expect(step).toHaveCount(0);
  await expect(row(page, 'Track 1')).toBeVisible();
  await page.getByRole('link', { name: /^Hand off/ }).click();
  await expect(forecast(page)).toContainText('Everything arrives');
});

test('a receiver is made in sentences, exported, removed, imported, and handed off to', async ({
  page,
  api,
}) => {
  await page.goto('/receivers?open=keyboard');
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Stage box');
  await page.getByRole('checkbox', { name: 'It takes pitch bend.' }).click();
  await page.getByRole('button', { name: 'Save as your own' }).click();
  await expect(page.getByText('Saved “Stage box”')).toBeVisible();
  const own = page
    .getByRole('navigation', { name: 'Receivers' })
    .getByRole('button', { name: 'Stage box' });
  await expect(own).toBeVisible();
  const { name, bytes } = await downloaded(page, () =>
    page.getByRole('link', { name: 'Export' }).click(),
  );
  const file = receiverFileSchema.parse(JSON.parse(Buffer.from(bytes).toString()));
  expect([name, file.receivers.map((r) => [r.name, r.takes.bend])]).toEqual([
    'Stage box.json',
    [['Stage box', false]],
  ]);
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(own).toHaveCount(0);
  const take = (content: string) =>
    page.getByTestId('receivers-file').setInputFiles({
      name: 'Stage box.json',
      mimeType: 'application/json',
      buffer: Buffer.from(content),
    });
  await take('{"version": 1, "receivers": [{"name": "x", "takes": {"colour": 1}}]}');
  await expect(page.getByText(/found colour/)).toBeVisible();
  await take(Buffer.from(bytes).toString());
  await expect(own).toBeVisible();
  await expectAccessible(page);
  await openFerry(page, api);
  await page.getByRole('option', { name: 'Stage box' }).click();
  await expect(makes(page)).toHaveText('Make the file');
  await expect(page.getByRole('list', { name: 'Files that would be made' })).toContainText('.MID');
});

test('a link opens in a clean browser without the song, and no more once it is revoked; what was sent goes again in one press', async ({
  page,
  api,
  browser,
}) => {
  const id = await openFerry(page, api);
  await page.getByRole('option', { name: 'Full sequencer' }).click();
  await expect(forecast(page)).toContainText('will not arrive');
  await makes(page).click();
  await page.getByRole('button', { name: 'Make a link' }).click();
  const links = page.getByRole('region', { name: 'Links' });
  const address = await links.getByRole('textbox', { name: 'Address of the link' }).inputValue();
  await expect(links).toContainText('the link opens here and nowhere else');
  const other = await browser.newContext();
  const clean = await other.newPage();
  await clean.goto(address);
  await expect(clean.getByRole('heading', { name: 'Crossing' })).toBeVisible();
  const [file] = await Promise.all([
    clean.waitForEvent('download'),
    clean.getByRole('link', { name: 'Crossing.mid' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('Crossing.mid');
  await page.reload();
  await page.getByRole('region', { name: 'Made before' }).getByRole('button').first().click();
  await expect(links).toContainText('1 download');
  await links.getByRole('button', { name: 'Revoke' }).click();
  await expect(links).toContainText('revoked');
  expect((await clean.goto(address))!.status()).toBe(404);
  await other.close();
  await api.step(id, 1, 'tracks.rename', { name: 'Reed' }, ['t2']);
  await page.reload();
  const before = page.getByRole('region', { name: 'Made before' });
  await expect(before).toContainText('Full sequencer; since: Renamed');
  await before.getByRole('button', { name: 'Again' }).first().click();
  const slip = page.getByRole('article', { name: 'Slip' });
  await expect(slip).toContainText('Reed');
  await expect(slip).toContainText('for Full sequencer');
});
