import { demo, drop, expect, expectAccessible, row, test } from './fixture.ts';
import { settled } from './settled.ts';

for (const theme of ['light', 'dark'] as const) {
  test(`axe finds nothing on any view, ${theme}`, async ({ page, api }) => {
    test.setTimeout(600_000);
    await page.emulateMedia({ colorScheme: theme });
    await page.goto('/');
    await expectAccessible(page);
    const { id } = await api.bring('views.mid', demo('instrument capture.mid'));
    const damaged = await api.bring('faults.mid', demo('damaged copy.mid'));
    await page.goto('/');
    await expect(page.getByRole('link', { name: 'views' }).first()).toBeVisible();
    await expectAccessible(page);
    await page.goto(`/songs/${damaged.id}/in`);
    await expect(page.getByRole('region', { name: 'Faults' })).toBeVisible();
    await expectAccessible(page);
    await page.goto(`/songs/${id}`);
    await row(page, 'Track 1').click();
    await expect(page.getByRole('button', { name: 'Rename' })).toBeVisible();
    await expectAccessible(page);
    await page.keyboard.press('F2');
    await expectAccessible(page);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+k');
    await expect(page.getByPlaceholder('What next?')).toBeVisible();
    await expectAccessible(page);
    await api.step(id, 0, 'tracks.rename', { name: 'Seen' }, ['t2']);
    await api.handOff(id);
    await page.goto(`/songs/${id}/out`);
    await page.getByRole('region', { name: 'Made before' }).getByRole('button').first().click();
    await expect(page.getByRole('article', { name: 'Slip' })).toBeVisible();
    await expectAccessible(page);
    await page.goto(`/songs/${id}/history`);
    await expect(page.getByText('Renamed Track 1 to “Seen”')).toBeVisible();
    await expectAccessible(page);
    await page.goto(`/songs/${id}/events`);
    await expect(
      page.getByRole('listbox', { name: 'Events' }).getByRole('option').first(),
    ).toBeVisible();
    await expectAccessible(page);
    await page.goto(`/songs/${id}/notes`);
    await expect(page.getByRole('application')).toBeVisible();
    await expectAccessible(page);
    await page.goto(`/songs/${id}/timing`);
    await expect(page.getByRole('region', { name: 'Converter' })).toBeVisible();
    await expectAccessible(page);
    await page.goto(`/songs/${id}/lanes`);
    await expect(page.getByRole('button', { name: 'Park' }).first()).toBeVisible();
    await expectAccessible(page);
    await page.goto(`/songs/${id}/arrange`);
    await expect(page.getByRole('region', { name: 'Running order' })).toBeVisible();
    await expectAccessible(page);
    await page.goto(`/songs/${id}/harmony`);
    await expect(page.getByRole('region', { name: 'Keys' })).toContainText('sure');
    await expectAccessible(page);
    await page.goto('/recipes');
    await page.getByRole('button', { name: /^Notes only/ }).click();
    await expect(page.getByRole('button', { name: 'Save as your own' })).toBeVisible();
    await expectAccessible(page);
    await page.goto('/receivers?open=keyboard');
    await expect(page.getByRole('button', { name: 'Save as your own' })).toBeVisible();
    await expectAccessible(page);
    await page.goto('/nowhere');
    await expectAccessible(page);
  });
}

/** At 200 % zoom a window of 1280x800 has half of both: nothing is beside the page, all panes are reached. */
test('everything is reached at 200 % zoom', async ({ browser, api, baseURL }) => {
  const { id } = await api.bring('near.mid', demo('instrument capture.mid'));
  const page = await browser.newPage({
    baseURL: baseURL!,
    viewport: { width: 640, height: 400 },
    deviceScaleFactor: 2,
  });
  const views = ['', '/in', '/notes', '/lanes', '/timing', '/arrange', '/harmony', '/events'];
  for (const view of [
    ...[...views, '/out', '/history', '/shelf'].map((v) => `/songs/${id}${v}`),
    '/',
    '/recipes',
    '/receivers',
    '/instruments',
    '/shelf',
  ]) {
    await page.goto(view);
    await page.getByRole('main').first().waitFor();
    await settled(page);
    const over = await page.evaluate(() => {
      const { scrollWidth, clientWidth, scrollHeight, clientHeight } = document.documentElement;
      return [scrollWidth - clientWidth, scrollHeight - clientHeight];
    });
    expect(over, view).toEqual([0, 0]);
  }
  // What stands beside the sheet elsewhere stands below it here; a step is taken there.
  await page.goto(`/songs/${id}`);
  await row(page, 'Track 1').click();
  await page.getByRole('button', { name: /^Transpose/ }).scrollIntoViewIfNeeded();
  await page.getByRole('button', { name: /^Transpose/ }).click();
  await page.getByRole('spinbutton', { name: /^Semitones/ }).fill('2');
  await page.getByRole('button', { name: 'Do it' }).click();
  await expect(page.getByRole('region', { name: 'Messages' })).toContainText('Transposed');
  // Every stage of the trail can be gone to.
  await page.getByRole('link', { name: 'History' }).click();
  await expect(page).toHaveURL(/history$/);
  await page.close();
});

for (const [width, height] of [
  [1024, 700],
  [1280, 800],
  [1920, 1080],
] as const) {
  test(`nothing is cut off at ${width}x${height}`, async ({ page, api }) => {
    await page.setViewportSize({ width, height });
    const { id } = await api.bring('wide.mid', demo('instrument capture.mid'));
    for (const view of [
      '',
      '/in',
      '/notes',
      '/lanes',
      '/timing',
      '/arrange',
      '/harmony',
      '/events',
      '/out',
      '/history',
    ]) {
      await page.goto(`/songs/${id}${view}`);
      await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
      const overflow = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(overflow).toBe(0);
    }
    await page.goto(`/songs/${id}`);
    await expect(row(page, 'Track 1')).toBeVisible();
    const sheet = await page
      .getByRole('main', { name: 'Track sheet' })
      .locator('> div')
      .evaluate((e) => e.scrollWidth - e.clientWidth);
    expect(sheet).toBe(0);
  });
}

test('a file dropped on any view of a song is shown beside it, and may be a song of its own; the theme stays', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('first.mid', demo('market groove.mid'));
  await page.goto(`/songs/${id}/history`);
  await page.getByRole('button', { name: 'Night theme' }).click();
  await drop(page, { name: 'second.mid', bytes: demo('squall ramp.mid') });
  await expect(page.getByRole('main', { name: 'Bring in' })).toContainText('second.mid');
  await expect(page.getByRole('main', { name: 'Bring in' })).toContainText('561 tempos');
  await page.getByRole('button', { name: 'As a song of its own' }).click();
  await expect(page.getByText(/tempo events, 104 to/)).toBeVisible();
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
});

test('a song of a thousand tracks scrolls with only the rows in view', async ({ page, api }) => {
  const header = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, 1000 >> 8, 1000 & 255, 0, 96];
  const track = [
    0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 12, 0, 0x90, 60, 64, 96, 0x80, 60, 64, 0, 0xff, 0x2f, 0,
  ];
  const { id } = await api.bring(
    'thousand.mid',
    Uint8Array.from([...header, ...Array.from({ length: 1000 }, () => track).flat()]),
  );
  const asked: string[] = [];
  page.on('request', (r) => r.url().includes('/api/') && asked.push(r.url()));
  await page.goto(`/songs/${id}`);
  await expect(page.locator('tr[data-track]').first()).toBeVisible();
  expect(await page.locator('tr[data-track]').count()).toBeLessThan(80);
  // However many tracks there are, a handful of requests shows them; and a handful more their notes.
  await page.waitForLoadState('networkidle');
  // One of them asks what the reader prefers.
  expect(asked.length).toBeLessThanOrEqual(6);
  await page.getByRole('link', { name: /^Notes/ }).click();
  await expect(page.getByText(/^1,000 notes/).first()).toBeVisible();
  expect(asked.length).toBeLessThanOrEqual(9);
  await page.getByRole('link', { name: /^Look over/ }).click();
  await page.locator('tr[data-track]').first().focus();
  await page.keyboard.press('End');
  await expect(page.locator('tr[data-track="t1000"]')).toBeFocused();
});

test('of a thousand findings one by one only those in view are drawn, and the one in hand', async ({
  page,
  api,
}) => {
  const header = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, 1000 >> 8, 1000 & 255, 0, 96];
  const track = [
    0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 12, 0, 0x90, 60, 64, 96, 0x80, 60, 64, 0, 0xff, 0x2f, 0,
  ];
  const { id } = await api.bring(
    'thousand.mid',
    Uint8Array.from([...header, ...Array.from({ length: 1000 }, () => track).flat()]),
  );
  await page.goto(`/songs/${id}`);
  const margin = page.getByRole('complementary', { name: 'Margin' });
  const nameless = margin
    .locator('li')
    .filter({ hasText: /1,000 times/ })
    .first();
  await nameless.getByRole('button', { name: 'One by one' }).click();
  const cards = margin.locator('[data-card]');
  await expect.poll(() => cards.count()).toBeGreaterThan(10);
  expect(await cards.count()).toBeLessThan(60);
  // What has the focus stays, however far one scrolls; and the last of all can be reached.
  const first = margin.locator('li[data-index="1"]').getByRole('button', { name: 'Leave' });
  await first.focus();
  await margin.evaluate((it) => it.scrollTo({ top: it.scrollHeight / 2 }));
  await expect(margin.locator('li[data-index="1"]')).toHaveCount(1);
  await expect(first).toBeFocused();
  const drawn = await margin
    .locator('li[data-index]')
    .evaluateAll((all) => all.map((it) => Number((it as HTMLElement).dataset.index)));
  expect(Math.max(...drawn)).toBeGreaterThan(200);
  expect(drawn.length).toBeLessThan(60);
  await nameless.getByRole('button', { name: 'Fold' }).click();
  await expect(nameless.getByRole('button', { name: 'One by one' })).toBeVisible();
});

test('what the first view waits for stays small', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('main')).toBeVisible();
  // What was asked for before anything was painted: screens that are gone to later come after that, and
  // how soon is the machine's affair.
  const bytes = await page.evaluate(() => {
    const painted = performance.getEntriesByName('first-contentful-paint')[0]!.startTime;
    const files = performance.getEntriesByType('resource') as PerformanceResourceTiming[];
    return files
      .filter(({ name, startTime }) => /\.(js|css)$/.test(name) && startTime < painted)
      .reduce((sum, { decodedBodySize }) => sum + decodedBodySize, 0);
  });
  // 0.9 MB before it is packed: 870 kB on 2026-11-27.
  expect(bytes).toBeGreaterThan(300_000);
  expect(bytes).toBeLessThan(900_000);
});

test('the bar strip tells the place under the pointer in bars, time, tempo, timecode and chord', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('strip.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  const box = (await strip.boundingBox())!;
  // Bar 63 of 120 is where the waltz begins (14 + 16 + 8 + 24 bars before it), at 126 BPM, with an F.
  await page.mouse.move(box.x + (62.02 / 120) * box.width, box.y + 40);
  await expect(
    page.getByText(/^63\.1\.\d+ · \d:\d\d\.\d{3} · 126 BPM · 01:0\d:\d\d:\d\d · F$/),
  ).toBeVisible();
});
