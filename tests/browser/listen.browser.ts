import { sounds } from '../../tools/setup.mjs';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { writeSmf } from '#core/smf/write.ts';
import { note } from '../support/songs.ts';
import { ear, loudnessOf, soundSeconds } from './ear.ts';
import { demo, expect, test } from './fixture.ts';

/** Keeps the first time that is shown as heard: a test that looks late still learns where playing began. */
const witness = (): void => {
  const page = globalThis as unknown as { firstHeard?: string | undefined };
  new MutationObserver(
    () =>
      (page.firstHeard ??= document.querySelector('[data-testid=heard]')?.textContent || undefined),
  ).observe(document, { subtree: true, childList: true, characterData: true });
};

test('a song is played from the bars of the scope, heard, followed on the strip, and paused', async ({
  page,
  api,
}) => {
  test.skip(!sounds(), 'no sounds are installed');
  await page.addInitScript(ear);
  await page.addInitScript(witness);
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  const loudest = (): Promise<number> => loudnessOf(page);
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  const box = (await strip.boundingBox())!;
  // Bars 16 to 20 of 120; bar 16 begins after 14 bars at 66 BPM and one at 88: 50.91 + 2.73 s.
  await page.mouse.move(box.x + (15.5 / 120) * box.width, box.y + 45);
  await page.mouse.down();
  await page.mouse.move(box.x + (19.5 / 120) * box.width, box.y + 45, { steps: 3 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await expect.poll(loudest).toBeGreaterThan(0.005);
  expect(
    await page.evaluate(() => (globalThis as unknown as { firstHeard?: string }).firstHeard),
  ).toMatch(/^0:5[3-5]/);
  await expect(page.getByTestId('playhead')).toBeVisible();
  // A step while it plays: the sound goes on with the song as it is now.
  await page.getByRole('button', { name: /^Transpose/ }).click();
  await page.getByRole('spinbutton', { name: /^Semitones/ }).fill('2');
  await page.getByRole('button', { name: 'Do it' }).click();
  await page.getByLabel('Undo', { exact: true }).hover();
  await expect(page.getByRole('tooltip')).toHaveText(/^Undo: Transposed/);
  await expect.poll(loudest).toBeGreaterThan(0.005);
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.keyboard.press('p');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect.poll(loudest).toBeLessThan(0.005);
});

test('a file whose ticks are parts of frames is played by its own clock', async ({ page, api }) => {
  test.skip(!sounds(), 'no sounds are installed');
  // 25 frames of 40 ticks: ten seconds of music.
  const notes = Array.from({ length: 20 }, (_, i) => note(i * 500, 400, 60 + (i % 12))).flat();
  const { id } = await api.bring(
    'frames.mid',
    writeSmf({
      format: 1,
      division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 },
      headerExtra: new Uint8Array(0),
      alienChunks: [],
      tracks: [{ events: eventsFrom(notes) }],
    }),
  );
  await page.addInitScript(ear);
  await page.goto(`/songs/${id}`);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByTestId('heard')).toHaveText('0:03', { timeout: 20_000 });
  const began = await soundSeconds(page);
  await expect(page.getByTestId('heard')).toHaveText('0:06');
  // Three seconds of music are three seconds of sound: frames have a clock of their own.
  expect(Math.abs((await soundSeconds(page)) - began - 3)).toBeLessThan(1.2);
  await page.goto('/');
  await page.goto(`/songs/${id}`);
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});
