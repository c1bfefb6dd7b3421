import { asFile, demo, drop, expect, expectAccessible, row, test } from './fixture.ts';

test('messages cover and move nothing, stand one behind the other, and are read again', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('said.mid', demo('instrument capture.mid'));
  await page.goto(`/songs/${id}`);
  const messages = page.getByRole('region', { name: 'Messages' });
  const again = messages.getByRole('button', { name: 'All messages' });
  await expect(again).toBeDisabled();
  const sheet = page.getByRole('main');
  const before = await sheet.boundingBox();
  await row(page, 'Track 2').click();
  await page.keyboard.press('Delete');
  await expect(messages).toContainText('Removed');
  await page.keyboard.press('b');
  await expect(messages).toContainText('Nothing to compare yet');
  // The newest is read, the others stand behind it; all of them within the head of the page.
  await expect(again).toContainText('+1');
  // Pointed at, they stay as long as that.
  await messages.hover();
  const head = (await page.getByRole('banner').boundingBox())!;
  const line = (await messages.boundingBox())!;
  expect(line.y).toBeGreaterThanOrEqual(head.y);
  expect(line.y + line.height).toBeLessThanOrEqual(head.y + head.height);
  expect(await sheet.boundingBox()).toEqual(before);
  await expectAccessible(page);
  // Put away, it is read again by a key, with what it offers.
  await messages.getByRole('button', { name: 'Put the message away' }).press('Enter');
  await messages.getByRole('button', { name: 'Put the message away' }).press('Enter');
  await expect(again).toBeFocused();
  await page.keyboard.press('Shift+H');
  const list = page.getByRole('dialog', { name: 'What was said' });
  await expect(list).toContainText('Nothing to compare yet');
  await expectAccessible(page);
  await list.getByRole('button', { name: 'Undo' }).click();
  await expect(row(page, 'Track 2')).toBeVisible();
  // What it offered was done, and is offered no more.
  await expect(list.getByRole('button', { name: 'Undo' })).toHaveCount(0);
  await expect(list).toContainText('Undone: Removed');
  await page.keyboard.press('Escape');
  await expect(list).toHaveCount(0);
});

test('a file that holds no song is named, and another is chosen in its place', async ({
  page,
  api,
}) => {
  const chosen = async (press: () => Promise<void>): Promise<void> => {
    const [chooser] = await Promise.all([page.waitForEvent('filechooser'), press()]);
    await chooser.setFiles(asFile('good.mid', demo('instrument capture.mid')));
  };
  await page.goto('/');
  await drop(page, { name: 'nothing.mid', bytes: new Uint8Array(0) });
  const arriving = page.getByRole('region', { name: 'Arriving' });
  await expect(arriving).toContainText('nothing.mid');
  await expectAccessible(page);
  await chosen(() => arriving.getByRole('button', { name: 'Choose again' }).click());
  await expect(page.getByRole('main', { name: 'Bring in' })).toContainText('good');
  // What was not taken is told no more.
  await page.goBack();
  await expect(page.getByText('nothing.mid')).toHaveCount(0);

  // The same beside a song that is open.
  const { id } = await api.bring('open.mid', demo('instrument capture.mid'));
  await page.goto(`/songs/${id}`);
  await expect(row(page, 'Track 2')).toBeVisible();
  await drop(page, { name: 'nothing.mid', bytes: new Uint8Array(0) });
  const messages = page.getByRole('region', { name: 'Messages' });
  await expect(messages).toContainText('nothing.mid');
  await chosen(() => messages.getByRole('button', { name: 'Choose again' }).click());
  await expect(page.getByRole('main', { name: 'Bring in' })).toContainText('good');
});
