import type { Page } from '@playwright/test';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent } from '#core/smf/events.ts';
import { encodeText } from '#core/smf/text.ts';
import { writeSmf } from '#core/smf/write.ts';
import { sounds } from '../../tools/setup.mjs';
import { plainFile } from '../support/plain-bank.ts';
import { brightnessOf, ear, loudnessOf } from './ear.ts';
import { choose, demo, expect, expectAccessible, row, test } from './fixture.ts';

test.skip(() => !sounds(), 'no sounds are installed');

/** One part that never pauses: a quarter after the other at 120 BPM, for two minutes. */
function unbroken(name: string, program: number): Uint8Array {
  const played = Array.from({ length: 240 }, (_, n) => [
    channelEvent(n * 96, 0x90, 60 + (n % 5), 110),
    channelEvent(n * 96 + 95, 0x80, 60 + (n % 5), 64),
  ]).flat();
  return writeSmf({
    format: 0,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    tracks: [
      {
        events: eventsFrom([
          metaEvent(0, meta.trackName, encodeText(name)),
          channelEvent(0, 0xc0, program),
          ...played,
          metaEvent(240 * 96, meta.endOfTrack),
        ]),
      },
    ],
    alienChunks: [],
  });
}

const plays = (page: Page) =>
  expect.poll(() => loudnessOf(page), { timeout: 60_000 }).toBeGreaterThan(0.02);

test('one key switches between the song as it is and as a step would leave it, while it plays', async ({
  page,
  api,
}) => {
  await page.addInitScript(ear);
  const { id } = await api.bring('strings.mid', unbroken('Strings', 48));
  await page.goto(`/songs/${id}`);
  await row(page, 'Strings').focus();
  await page.keyboard.press('b');
  await expect(page.getByText('Nothing to compare yet')).toBeVisible();
  await page.keyboard.press('p');
  await plays(page);
  const asItIs = await loudnessOf(page);
  await page.getByRole('button', { name: /^Set or scale velocity …/ }).click();
  const step = page.getByRole('region', { name: 'Step' });
  await step.getByRole('spinbutton', { name: /^Scale/ }).fill('10');
  await expect(step.getByRole('button', { name: 'Hear it' })).toBeVisible();
  await row(page, 'Strings').focus();
  await page.keyboard.press('b');
  await expect(page.getByText('As it would be', { exact: true })).toBeVisible();
  await expect(step.getByRole('button', { name: 'As it is' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await expect.poll(() => loudnessOf(page), { timeout: 30_000 }).toBeLessThan(asItIs / 3);
  await expectAccessible(page);
  await page.keyboard.press('b');
  await expect.poll(() => loudnessOf(page), { timeout: 30_000 }).toBeGreaterThan(asItIs * 0.6);
  // Whoever leaves the step hears the song as it is; nothing was done.
  await page.keyboard.press('b');
  await step.getByRole('button', { name: 'Not now' }).click();
  await expect.poll(() => loudnessOf(page), { timeout: 30_000 }).toBeGreaterThan(asItIs * 0.6);
  expect((await api.song(id)).revision).toBe(0);
});

test('what would settle a finding is heard with one press, and as it is with another', async ({
  page,
  api,
}) => {
  await page.addInitScript(ear);
  const { id } = await api.bring('sketch.mid', demo('phone sketch.mid'));
  const { revision } = await api.song(id);
  await page.goto(`/songs/${id}`);
  const doubled = page
    .getByRole('region', { name: 'Findings' })
    .getByRole('listitem')
    .filter({ hasText: 'doubles' });
  await doubled.getByRole('button', { name: 'Hear it' }).click();
  await expect(doubled.getByRole('button', { name: 'As it is' })).toBeFocused();
  await plays(page);
  await page.keyboard.press('b');
  await expect(doubled.getByRole('button', { name: 'Hear it' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  expect((await api.song(id)).revision).toBe(revision);
});

test('lights follow the part that is selected, as keys, pads or strings', async ({ page, api }) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await page.getByRole('checkbox', { name: 'Toy Piano' }).click();
  await page.keyboard.press('k');
  const lights = page.getByRole('region', { name: 'Lights' });
  await expect(lights).toContainText('Toy Piano');
  await row(page, 'Toy Piano').focus();
  await page.keyboard.press('p');
  const lit = lights.getByTestId('lit');
  await expect(lit).toHaveText(/^[A-G]♯?\d/, { timeout: 60_000 });
  await expectAccessible(page);
  await page.keyboard.press('p');
  await expect(lit).toHaveText('');
  await page.keyboard.press('k');
  await expect(lights).toHaveCount(0);
});

test('a song sounds at a MIDI port with its clock: the sound module shows what it receives, of all parts or of some', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await page.getByRole('button', { name: 'How it is heard' }).click();
  const port = page.getByRole('region', { name: 'MIDI port' });
  await choose(port.getByRole('combobox', { name: 'MIDI port' }), 'Sound module, on this page');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'How it is heard' })).toBeFocused();
  const module = page.getByRole('region', { name: 'Sound module' });
  await expect(module.getByTestId('module-clock')).toHaveText('stands at sixteenth 0');
  await page.keyboard.press('p');
  // The piece begins at 66 BPM; its violin is on channel 8 and plays from the beginning.
  await expect(module.getByTestId('module-tempo')).toHaveText('66.0 quarter notes a minute', {
    timeout: 60_000,
  });
  await expect(module.getByTestId('module-clock')).toHaveText(/^runs at sixteenth [1-9]/);
  await expect(module.getByRole('listitem').nth(7)).toContainText('Violin');
  await page.keyboard.press('x');
  await expect(module.getByTestId('module-clock')).toHaveText(/^stands at/);
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test('a sound bank of one’s own is checked, heard for one song, and removed with its size said', async ({
  page,
  api,
}) => {
  await page.addInitScript(ear);
  const { id } = await api.bring('strings.mid', unbroken('Strings', 48));
  await page.goto(`/songs/${id}`);
  await row(page, 'Strings').focus();
  await page.keyboard.press('p');
  await plays(page);
  const strings = await brightnessOf(page);
  await page.getByRole('button', { name: 'How it is heard' }).click();
  const region = page.getByRole('region', { name: 'Sounds' });
  const take = (name: string, buffer: Buffer): Promise<void> =>
    region
      .getByLabel('Sound bank, SF2 or SF3')
      .setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
  const bank = Buffer.from(plainFile());
  await take('cut off.sf2', bank.subarray(0, bank.length - 4));
  await expect(page.getByText('This is no sound bank that can be used')).toBeVisible();
  await take('Plain.sf2', bank);
  await expect(region.getByRole('combobox', { name: 'Sounds' })).toContainText('Plain.sf2');
  await expect(region).toContainText('nothing for programs 2, 3, 4, 5, 6, 7 and 121 more');
  // A sine has nothing but its own pitch: far less bright than strings.
  await expect.poll(() => brightnessOf(page), { timeout: 60_000 }).toBeLessThan(strings / 1.5);
  await region.getByRole('button', { name: 'Remove' }).click();
  await region.getByRole('button', { name: /^Remove for good: \d/ }).click();
  await expect(region.getByRole('combobox', { name: 'Sounds' })).toContainText('come along');
  await expect.poll(() => brightnessOf(page), { timeout: 60_000 }).toBeGreaterThan(strings / 1.3);
});

test('a device at a MIDI port gets the parts that are sent there; when it is pulled out that is said, and they are heard here', async ({
  page,
  api,
}) => {
  await page.addInitScript(ear);
  // A stand-in for the browser's ports: one output that keeps what it is sent, and can be pulled out.
  await page.addInitScript(() => {
    const sent: { bytes: number[]; at: number }[] = [];
    const output = {
      id: 'box',
      name: 'Blue box',
      state: 'connected',
      send: (bytes: number[], at: number) => sent.push({ bytes, at: at - performance.now() }),
    };
    const access = {
      outputs: new Map([['box', output]]),
      onstatechange: null as null | (() => void),
    };
    Object.assign(navigator, { requestMIDIAccess: async () => access });
    Object.assign(globalThis, {
      sent,
      pullOut: () => {
        output.state = 'disconnected';
        access.onstatechange?.();
      },
    });
  });
  const { id } = await api.bring('strings.mid', unbroken('Strings', 48));
  await page.goto(`/songs/${id}`);
  await page.getByRole('button', { name: 'How it is heard' }).click();
  const port = page.getByRole('region', { name: 'MIDI port' });
  await choose(port.getByRole('combobox', { name: 'MIDI port' }), 'ask the browser for others …');
  await choose(port.getByRole('combobox', { name: 'MIDI port' }), 'Blue box');
  await page.keyboard.press('Escape');
  await row(page, 'Strings').focus();
  await page.keyboard.press('p');
  interface Box {
    readonly sent: { bytes: number[]; at: number }[];
    pullOut(): void;
  }
  const notes = (): Promise<number> =>
    page.evaluate(
      () => (globalThis as unknown as Box).sent.filter((s) => s.bytes[0] === 0x90).length,
    );
  await expect.poll(notes, { timeout: 60_000 }).toBeGreaterThan(3);
  const sent = await page.evaluate(() => (globalThis as unknown as Box).sent);
  expect(sent.find((s) => s.bytes[0] === 0xc0)!.bytes).toEqual([0xc0, 48]);
  expect(sent.some((s) => s.bytes[0] === 0xfa)).toBe(true);
  // Nearly all of it was on its way before it was due.
  const late = sent.filter((s) => s.at < 0).length;
  expect(late).toBeLessThan(sent.length / 2);
  expect(await loudnessOf(page)).toBeLessThan(0.005);
  await page.evaluate(() => (globalThis as unknown as Box).pullOut());
  await expect(page.getByText('Blue box is gone')).toBeVisible();
  await plays(page);
});

test('where no loudspeaker answers that is said, and nothing hangs', async ({ page, api }) => {
  await page.addInitScript(() => {
    AudioContext.prototype.resume = () => new Promise(() => undefined);
  });
  const { id } = await api.bring('strings.mid', unbroken('Strings', 48));
  await page.goto(`/songs/${id}`);
  await row(page, 'Strings').focus();
  await page.keyboard.press('p');
  await expect(page.getByText('Nothing can be heard')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});
