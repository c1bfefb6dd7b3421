import type { Page } from '@playwright/test';
import { asFile, choose, demo, expect, row, test } from './fixture.ts';

/** Counts what is pressed, by pointer or key; letters typed into a field count as one press together. */
const countPresses = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    const kept = globalThis as unknown as { presses: number };
    kept.presses = 0;
    addEventListener('pointerdown', () => kept.presses++, { capture: true });
    addEventListener(
      'keydown',
      (e) => {
        if (!['Shift', 'Control', 'Alt', 'Meta'].includes(e.key)) kept.presses++;
      },
      { capture: true },
    );
  });

/**
 * The commonest acts with the presses that the shortest way took before findings led to their events, keys
 * could be seen, events be edited together, recipes be taken back and steps be gone to at once: counted by hand
 * on the version before (turns of the wheel count as one each).
 */
const before = {
  'see the events of a finding': 3,
  'back to the finding': 2,
  'settle a finding': 2,
  'settle a finding, having seen what it does': 2,
  'go to the notes': 1,
  'undo four steps': 4,
  'redo four steps': 4,
  'delete all programs': 5,
  'give five values the same value': 20,
  'run a recipe on three songs and take it back': 15,
  'the whole song in view': 4,
  'the scope in view': 4,
  'make a file and take it': 3,
  'rename a track': 4,
  'transpose a track': 4,
  'play and pause': 2,
  'open another song': 3,
  'see which of three songs want work': 6,
  'one controller of all tracks': 2,
  'a file cleaned and out': 7,
} as const;
type Act = keyof typeof before;

test('the twenty commonest acts take two thirds of the presses they took, and none takes more', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('pressed.mid', demo('instrument capture.mid'));
  await api.bring('pressed two.mid', demo('phone sketch.mid'));
  await api.bring('pressed three.mid', demo('squall ramp.mid'));
  await countPresses(page);
  const counted = new Map<Act, number>();
  const read = (): Promise<number> =>
    page.evaluate(() => (globalThis as unknown as { presses: number }).presses);
  /** Presses of an act; `typed` is how many fields were filled in it. */
  const act = async (name: Act, does: () => Promise<void>, typed = 0): Promise<void> => {
    const had = await read();
    await does();
    counted.set(name, (await read()) - had + typed);
  };
  const messages = page.getByRole('region', { name: 'Messages' });
  const key = (name: string): Promise<void> => page.keyboard.press(name);
  const history = page.getByRole('main', { name: 'History' });

  await page.goto(`/songs/${id}`);
  await page.getByRole('region', { name: 'Findings' }).waitFor();
  const flat = page
    .getByRole('region', { name: 'Findings' })
    .getByRole('listitem')
    .filter({ hasText: /one velocity/ })
    .first()
    .getByRole('button', { name: 'Show' });
  await act('see the events of a finding', async () => {
    await flat.click();
    await page.getByRole('region', { name: 'Marked' }).waitFor();
  });
  await act('back to the finding', async () => {
    await key('g');
    await expect(flat).toBeFocused();
  });
  const spread = page.getByRole('button', { name: /^Spread, louder/ }).first();
  await act('settle a finding', async () => {
    await spread.click({ modifiers: ['Shift'] });
    await expect(messages).toContainText('Velocity spread');
  });
  const settle = page.getByRole('region', { name: 'Findings' }).getByRole('button').first();
  await act('settle a finding, having seen what it does', async () => {
    await settle.click();
    await expect(page.getByRole('region', { name: 'Step' })).toContainText('It would');
    await key('Enter');
    await expect(page.getByRole('region', { name: 'Step' })).toHaveCount(0);
  });
  await act('go to the notes', async () => {
    await key('3');
    await page.getByRole('main', { name: 'Note view' }).waitFor();
  });
  await act('the whole song in view', () => key('w'));
  const strip = (await page.getByRole('slider', { name: 'Place in the bars' }).boundingBox())!;
  await page.mouse.move(strip.x + strip.width * 0.2, strip.y + 40);
  await page.mouse.down();
  await page.mouse.move(strip.x + strip.width * 0.4, strip.y + 40, { steps: 3 });
  await page.mouse.up();
  await act('the scope in view', () => key('s'));
  await act('play and pause', async () => {
    await key('p');
    await page.getByRole('button', { name: 'Pause' }).waitFor();
    await key('p');
  });
  await page.getByRole('slider', { name: 'Place in the bars' }).focus();
  await key('Escape');

  // Event list.
  await page.goto(`/songs/${id}/events`);
  const show = page.getByRole('combobox', { name: 'Show' });
  const events = page.getByRole('listbox', { name: 'Events' });
  await events.waitFor();
  await act('delete all programs', async () => {
    await choose(show, 'programs');
    await page.getByRole('button', { name: 'Delete all shown' }).click();
    await expect(messages).toContainText('Deleted');
  });
  await choose(show, 'controllers');
  await page.getByLabel('Words in the event').fill('volume');
  await expect(events.getByRole('option').nth(5)).toBeVisible();
  await act(
    'give five values the same value',
    async () => {
      await events.getByRole('option').nth(0).click();
      await events
        .getByRole('option')
        .nth(4)
        .click({ modifiers: ['Shift'] });
      await key('Enter');
      await page
        .getByRole('region', { name: 'Edit several events' })
        .getByLabel('Value')
        .fill('90');
      await key('Enter');
      await expect(messages).toContainText('Edited 5 events');
    },
    1,
  );

  // History.
  await act('undo four steps', async () => {
    await key('h');
    await history.getByRole('button', { name: 'Go to: as received' }).click();
    await expect(messages).toContainText('The song is as of');
  });
  await page.goto(`/songs/${id}`);
  await expect(row(page, 'Track 2').first()).toBeVisible();
  await act('redo four steps', async () => {
    await key('h');
    await history.getByRole('button', { name: 'Go to: Edited 5 events' }).click();
    await expect(messages).toContainText('The song is as of');
  });
  await page.goto(`/songs/${id}/lanes`);
  await act('one controller of all tracks', () =>
    choose(page.getByRole('combobox', { name: 'Show' }), 'volume'),
  );

  // The sheet.
  await page.goto(`/songs/${id}`);
  await act(
    'rename a track',
    async () => {
      await row(page, 'Track 2').click();
      await key('F2');
      await page.getByRole('textbox', { name: /name/i }).fill('Viola');
      await key('Enter');
      await expect(row(page, 'Viola')).toBeVisible();
    },
    1,
  );
  await act(
    'transpose a track',
    async () => {
      await row(page, 'Track 3').click();
      await page.getByRole('button', { name: /^Transpose/ }).click();
      await page.getByRole('spinbutton', { name: /^Semitones/ }).fill('12');
      await expect(page.getByRole('region', { name: 'Step' })).toContainText('It would touch');
      await key('Enter');
      await expect(messages).toContainText('Transposed');
    },
    1,
  );
  await act('make a file and take it', async () => {
    await key('0');
    const make = page.getByRole('button', { name: 'Make the file', exact: true });
    await expect(make).toBeFocused();
    await key('Enter');
    await expect(page.getByRole('link', { name: 'Download' })).toBeFocused();
    await Promise.all([page.waitForEvent('download'), key('Enter')]);
  });
  await act(
    'open another song',
    async () => {
      await key('Control+k');
      await page.getByPlaceholder('What next?').fill('pressed two');
      await page.getByRole('option', { name: /pressed two/ }).waitFor();
      await key('Enter');
      await expect(page).not.toHaveURL(new RegExp(id));
    },
    1,
  );

  // Songs and recipes.
  await page.goto('/');
  await act('see which of three songs want work', async () => {
    for (const name of ['pressed', 'pressed two', 'pressed three'])
      await expect(
        page.getByRole('row', { name: new RegExp(`^${name}\\b`) }).first(),
      ).toContainText(/finding|nothing open/);
  });
  await act('run a recipe on three songs and take it back', async () => {
    await page.getByRole('link', { name: 'Recipes' }).click();
    await page.getByRole('button', { name: /^Notes only/ }).click();
    for (const name of [/^pressed\.?\s*\d/, /^pressed two/, /^pressed three/])
      await page.getByRole('checkbox', { name }).check();
    await page.getByRole('button', { name: 'Run on 3 songs' }).click();
    const report = page.getByRole('region', { name: 'Report' });
    await report.getByRole('button', { name: /^Undo/ }).click();
    await expect(report).toContainText('undone again');
  });
  await page.goto('/');
  await act('a file cleaned and out', async () => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Choose files' }).click();
    await (await chooser).setFiles(asFile('pressed four.mid', demo('phone sketch.mid')));
    await page.getByRole('link', { name: 'Look it over' }).click();
    await page
      .getByRole('button', { name: /^Spread, louder/ })
      .first()
      .click({ modifiers: ['Shift'] });
    await expect(messages).toContainText('Velocity spread');
    await key('0');
    await expect(page.getByRole('button', { name: 'Make the file', exact: true })).toBeFocused();
    await key('Enter');
    await expect(page.getByRole('link', { name: 'Download' })).toBeFocused();
    await Promise.all([page.waitForEvent('download'), key('Enter')]);
  });

  const sum = (list: Iterable<number>): number => [...list].reduce((a, b) => a + b, 0);
  for (const [name, presses] of counted)
    console.log(`${name}: ${presses} presses, ${before[name]} before`);
  const [now, then] = [sum(counted.values()), sum(Object.values(before))];
  console.log(`all: ${now} presses, ${then} before`);
  expect(counted.size).toBe(20);
  for (const [name, presses] of counted) expect(presses, name).toBeLessThanOrEqual(before[name]);
  expect(now).toBeLessThanOrEqual((2 / 3) * then);
});
