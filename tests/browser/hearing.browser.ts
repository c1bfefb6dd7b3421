import type { Page } from '@playwright/test';
import { sounds } from '../../tools/setup.mjs';
import { loudnessOf, ear } from './ear.ts';
import { demo, expect, expectAccessible, row, test } from './fixture.ts';

/** Seconds of the song that are shown as heard; undefined while it is silent. */
async function heardAt(page: Page): Promise<number | undefined> {
  const [minutes, seconds] = ((await page.getByTestId('heard').textContent()) ?? '').split(':');
  return seconds === undefined ? undefined : Number(minutes) * 60 + Number(seconds);
}

test('two parts are heard alone and silenced by keys while the song plays, and nothing of it is a step', async ({
  page,
  api,
}) => {
  test.skip(!sounds(), 'no sounds are installed');
  await page.addInitScript(ear);
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  // Toy Piano and Glass Harmonica begin the piece.
  await row(page, 'Toy Piano').focus();
  await page.keyboard.press('o');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('o');
  await expect(page.getByRole('button', { name: /is heard alone/ })).toHaveCount(2);
  await expect(page.getByRole('button', { name: /is not heard/ })).toHaveCount(10);
  await expectAccessible(page);
  await page.keyboard.press('p');
  await expect.poll(() => loudnessOf(page), { timeout: 90_000 }).toBeGreaterThan(0.005);
  // Alone is the cello, which comes later: it plays on, and nothing sounds.
  await row(page, 'Toy Piano').focus();
  await page.keyboard.press('o');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('o');
  await row(page, 'Toy Piano').focus();
  await page.keyboard.press('m');
  for (const name of [
    'Clarinet',
    'Glass Harmonica',
    'Violin',
    'Viola',
    'Cello',
    'Double Bass',
    'Marimba',
  ]) {
    await row(page, name).first().focus();
    await page.keyboard.press('m');
  }
  await expect(page.getByRole('button', { name: /is not heard/ })).toHaveCount(8);
  await expect.poll(() => loudnessOf(page), { timeout: 90_000 }).toBeLessThan(0.005);
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  // It is so when one comes back, and one press takes it back.
  await page.reload();
  await expect(page.getByRole('button', { name: /is not heard/ })).toHaveCount(8);
  await page.getByRole('button', { name: 'Toy Piano is not heard: hear it as the others' }).click();
  await expect(page.getByRole('button', { name: /is not heard/ })).toHaveCount(7);
  expect((await api.song(id)).revision).toBe(0);
});

test('the chosen bars come round, slower, with the beats, all by keys and words', async ({
  page,
  api,
}) => {
  test.skip(!sounds(), 'no sounds are installed');
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  const box = (await strip.boundingBox())!;
  // Bars 16 and 17 at 88 BPM: 53.64 to 59.09 s by hand.
  await page.mouse.move(box.x + (15.5 / 120) * box.width, box.y + 45);
  await page.mouse.down();
  await page.mouse.move(box.x + (16.5 / 120) * box.width, box.y + 45, { steps: 3 });
  await page.mouse.up();
  await page.keyboard.press('l');
  await page.getByRole('button', { name: 'How it is heard' }).click();
  await expect(page.getByRole('radio', { name: /^again/ })).toBeChecked();
  await page.getByRole('spinbutton', { name: 'Speed, in percent' }).fill('200');
  await page.getByRole('checkbox', { name: 'Beats' }).click();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'How it is heard' })).toBeFocused();
  await page.keyboard.press('p');
  // It is in the bars, and comes back to their beginning more than once.
  const places: number[] = [];
  await expect
    .poll(
      async () => {
        const now = await heardAt(page);
        if (now !== undefined && now > 0) places.push(now);
        return places.filter((p, n) => n > 0 && p < places[n - 1]!).length;
      },
      { timeout: 90_000, intervals: [100] },
    )
    .toBeGreaterThan(1);
  expect(Math.min(...places)).toBeGreaterThanOrEqual(53);
  expect(Math.max(...places)).toBeLessThanOrEqual(59.2);
  // The place is said in time, in timecode, which begins at 01:00:00:00 there, or in bars; and one key goes
  // back to where it began.
  const heard = page.getByTestId('heard');
  await heard.click();
  await expect(heard).toHaveText(/^01:00:5\d:\d\d$/);
  await heard.click();
  await expect(heard).toHaveText(/^1[67]\.[1-4]\.\d+$/);
  await page.keyboard.press('p');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.keyboard.press('Shift+P');
  await expect(heard).toHaveText('16.1.0');
});
