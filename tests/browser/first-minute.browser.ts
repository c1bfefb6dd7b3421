import type { Page } from '@playwright/test';
import { readIndependently } from '../support/independent.ts';
import { downloaded, expect, expectAccessible, test } from './fixture.ts';

/** The list as it is before anything came in, whatever other tests brought. */
const asIfNothing = (page: Page): Promise<unknown> =>
  page.route(/\/api\/songs\?/, (route) =>
    route.fulfill({ json: { songs: [], total: 0, keepRemovedDays: 30, next: null } }),
  );

/** Counts what is pressed, by pointer or key, as long as the page lives. */
const countPresses = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    const kept = globalThis as unknown as { presses: number };
    kept.presses = 0;
    for (const kind of ['pointerdown', 'keydown'])
      addEventListener(kind, () => kept.presses++, { capture: true });
  });
const presses = (page: Page): Promise<number> =>
  page.evaluate(() => (globalThis as unknown as { presses: number }).presses);

test('somebody who has never seen it has a useful file in seven presses', async ({ page }) => {
  await asIfNothing(page);
  await countPresses(page);
  await page.goto('/');
  // One screen says what to do, what happens between, and what comes out.
  for (const name of ['Bring in', 'Look over, and clean', 'Hand off'])
    await expect(page.getByRole('region', { name, exact: true })).toBeInViewport({ ratio: 1 });
  await expectAccessible(page);
  await page.getByRole('button', { name: /^phone sketch/ }).click();
  const head = page.getByRole('region', { name: 'Messages' });
  await expect(head).toContainText('What the file holds, part by part.');
  await page.getByRole('link', { name: 'Look it over' }).click();
  await expect(head).toContainText('each finding is settled by a press');
  await page.getByRole('button', { name: 'Spread, louder on the beats' }).first().click();
  await page.getByRole('button', { name: 'Do it' }).click();
  // Something was done here: the stage says no more what it is for.
  await expect(head).toContainText('Velocity spread');
  await page.getByRole('link', { name: 'Hand off' }).click();
  await expect(head).toContainText('make the files with a slip');
  await page.getByRole('button', { name: 'Make the file' }).click();
  await expect(head).toContainText('Made phone sketch.mid');
  const pressed = await presses(page);
  // The focus is where the work goes on: Enter takes the file.
  await expect(page.getByRole('link', { name: 'Download' })).toBeFocused();
  const { bytes } = await downloaded(page, () => page.keyboard.press('Enter'));
  const { tracks } = readIndependently(bytes);
  const velocities = new Set(
    tracks.flat().flatMap((e) => / 9.[0-9a-f]{2}([0-9a-f]{2})$/.exec(e)?.[1] ?? []),
  );
  expect(velocities.size).toBeGreaterThan(5);
  expect(pressed + 1).toBeLessThanOrEqual(7);
  await page.getByRole('link', { name: /^Look over/ }).click();
  await expect(head).not.toContainText('each finding is settled by a press');
});
