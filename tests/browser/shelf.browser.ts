import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { sounds } from '../../tools/setup.mjs';
import { demoGrooves } from '#demo/grooves.ts';
import { readIndependently } from '../support/independent.ts';
import { ear, loudnessOf, soundSeconds } from './ear.ts';
import { choose, demo, drop, expect, expectAccessible, test } from './fixture.ts';

test('a beat is cut out into its folder in one line, found again by keys alone, heard round and round, and put at bar 9', async ({
  page,
  api,
}) => {
  await page.addInitScript(ear);
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await page.getByRole('checkbox', { name: 'Hand Drums' }).click();
  // Bars 39 and 40 on the strip: they are in 7/8.
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  const box = (await strip.boundingBox())!;
  await page.mouse.move(box.x + (38.5 / 120) * box.width, box.y + 45);
  await page.mouse.down();
  await page.mouse.move(box.x + (39.5 / 120) * box.width, box.y + 45, { steps: 3 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Shelf …' }).click();
  const line = page.getByRole('group', { name: 'Put on the shelf' });
  const called = `Market beat ${Date.now()}`;
  await line.getByRole('textbox', { name: 'Name of the clip' }).fill(called);
  await line.getByRole('combobox', { name: 'Folder' }).fill('Ferry kit/Cut');
  await page.keyboard.press('Enter');
  await expect(page.getByText(`Put “${called}” on the shelf`)).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('link', { name: /^Shelf/ }).click();
  await page.getByRole('searchbox', { name: 'Search the shelf' }).fill(called);
  const list = page.getByRole('listbox', { name: 'Clips' });
  await expect(list.getByRole('option')).toHaveCount(1);
  await expect(list.getByRole('option')).toContainText('7/8');
  await expectAccessible(page);
  await list.focus();
  if (sounds()) {
    // Through another kit than its own.
    await choose(page.getByRole('combobox', { name: 'Kit' }), 'Brush kit');
    await list.focus();
    await page.keyboard.press('ArrowDown');
    await expect.poll(() => loudnessOf(page), { timeout: 60_000 }).toBeGreaterThan(0.005);
    // Two bars of 7/8 at 138 last 3 s: after four of sound it is still heard, for it comes round.
    const began = await soundSeconds(page);
    await expect.poll(() => soundSeconds(page), { timeout: 60_000 }).toBeGreaterThan(began + 4);
    expect(await loudnessOf(page)).toBeGreaterThan(0.005);
    await page.keyboard.press(' ');
    await expect.poll(() => loudnessOf(page), { timeout: 30_000 }).toBeLessThan(0.005);
  }
  // Bar 9 is pressed on the strip.
  await strip.click({ position: { x: (8.3 / 120) * box.width, y: 32 } });
  await list.focus();
  await page.keyboard.press('Enter');
  // It goes onto the part that is selected: no track is added.
  await expect.poll(async () => (await api.song(id)).revision).toBe(1);
  const after = await api.song(id);
  const drums = after.tracks.findIndex((t) => t.name === 'Hand Drums');
  const ons = readIndependently((await api.handOff(id)).bytes).tracks[drums]!.filter(
    (l) => / 99/.test(l) && !l.endsWith('00'),
  );
  // Bar 9 begins at 8 × 1,920 ticks; two bars of 7/8 are 3,360.
  const inBar9 = ons.filter((l) => {
    const tick = Number(l.split(' ')[0]);
    return tick >= 15_360 && tick < 15_360 + 3360;
  });
  expect(inBar9.length).toBeGreaterThan(8);
});

test('files go onto the shelf with their folders; a fill is heard once; another program is heard in the place of its own', async ({
  page,
}) => {
  test.skip(!sounds(), 'no sounds are installed');
  await page.addInitScript(ear);
  await page.goto('/shelf');
  const some = demoGrooves.filter((g) => g.folder.endsWith('In three'));
  await page.getByLabel('Files for the shelf').setInputFiles(
    some.map(({ name, bytes }) => ({
      name,
      mimeType: 'audio/midi',
      buffer: Buffer.from(bytes()),
    })),
  );
  await expect(
    page.getByText(/^Put \d+ clips? on the shelf|lay there already/).first(),
  ).toBeVisible();
  await page.getByRole('searchbox', { name: 'Search the shelf' }).fill('Turnstile');
  const list = page.getByRole('listbox', { name: 'Clips' });
  await expect(list.getByRole('option').first()).toContainText('Turnstile fill');
  await list.focus();
  await page.keyboard.press('Home');
  await expect.poll(() => loudnessOf(page), { timeout: 60_000 }).toBeGreaterThan(0.005);
  await expect(list.getByLabel('is heard')).toHaveCount(0, { timeout: 30_000 });
  await page.keyboard.press('F2');
  await page.getByRole('textbox', { name: 'Name of the clip' }).fill('Turnstile fill, mine');
  await page.keyboard.press('Enter');
  await expect(list.getByRole('option').first()).toContainText('Turnstile fill, mine');
  await expect(list).toBeFocused();
  await page.keyboard.press('Delete');
  await expect(page.getByText('Took “Turnstile fill, mine” from the shelf')).toBeVisible();
  await page.getByRole('button', { name: 'Put back' }).click();
  await expect(list.getByRole('option').first()).toContainText('Turnstile fill, mine');
});

test('a folder is looked through and heard without being kept; a clip of it is dragged onto the strip, and is in the song', async ({
  page,
  api,
}, info) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  const folder = info.outputPath('Grooves of mine');
  mkdirSync(path.join(folder, 'In three'), { recursive: true });
  for (const { name, bytes } of demoGrooves.filter((g) => g.folder.endsWith('In three')))
    writeFileSync(path.join(folder, 'In three', name), bytes());
  await page.goto(`/songs/${id}/shelf`);
  const onShelf = async (): Promise<number> =>
    ((await (await page.request.get('/api/shelf/clips')).json()) as { total: number }).total;
  const before = await onShelf();
  await page.getByLabel('A folder to look through').setInputFiles(folder);
  await expect(page.getByText('Looking through Grooves of mine: 7 clips')).toBeVisible();
  const list = page.getByRole('listbox', { name: 'Clips' });
  await expect(list.getByRole('option')).toHaveCount(7);
  await page.getByRole('searchbox', { name: 'Search the shelf' }).fill('waltz');
  await expect(list.getByRole('option')).toHaveCount(1);
  await expectAccessible(page);
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  const box = (await strip.boundingBox())!;
  await list
    .getByRole('option')
    .dragTo(strip, { targetPosition: { x: (62.5 / 120) * box.width, y: 32 } });
  await expect.poll(async () => (await api.song(id)).tracks.length).toBe(14);
  // The waltz is 3/4, as the song is from bar 63 on: it begins there.
  const added = (await api.song(id)).tracks.at(-1)!;
  expect(added.notes).toBeGreaterThan(10);
  await page.getByRole('searchbox', { name: 'Search the shelf' }).fill('');
  await page.getByRole('button', { name: 'Leave Grooves of mine' }).click();
  await expect(page.getByRole('button', { name: /^All clips/ })).toHaveAttribute(
    'aria-current',
    'true',
  );
  expect(await onShelf()).toBe(before);
});

test(
  'what is dropped on the shelf becomes clips, and no songs',
  { tag: '@quick' },
  async ({ page, api }) => {
    const before = (await api.send('GET', '/api/songs')).body as { songs: unknown[] };
    await page.goto('/shelf');
    await expect(page.getByRole('listbox', { name: 'Clips' })).toBeVisible();
    const [first] = demoGrooves.filter((g) => g.folder.endsWith('In seven'));
    await drop(page, { name: first!.name, bytes: first!.bytes() });
    await expect(page.getByText(/^Put \d+ clips? on the shelf/)).toBeVisible();
    const after = (await api.send('GET', '/api/songs')).body as { songs: unknown[] };
    expect(after.songs.length).toBe(before.songs.length);
  },
);
