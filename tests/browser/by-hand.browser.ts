import { choose, demo, drop, expect, expectAccessible, row, test } from './fixture.ts';
import type { Page } from '@playwright/test';

const marked = (page: Page) => page.getByRole('region', { name: 'Marked' });
const steps = (page: Page) => page.getByRole('link', { name: 'History' });

test('a finding is shown where its events are, marked in every view, and one key leads back to it', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('capture.mid', demo('instrument capture.mid'));
  await page.goto(`/songs/${id}`);
  const findings = page.getByRole('region', { name: 'Findings', exact: true });
  const velocity = findings.getByRole('listitem').filter({ hasText: 'Parts with one velocity' });
  await velocity.getByRole('button', { name: 'Show' }).first().click();
  await expect(page).toHaveURL(/notes$/);
  await expect(marked(page)).toContainText('132 notes marked: Parts with one velocity');
  const notes = page.getByRole('application');
  await expect(notes).toBeFocused();
  await expect(page.getByText('132 notes selected')).toBeVisible();
  await expectAccessible(page);
  // The same in the other views, each by one key; the sheet has them on the rows of their tracks.
  await page.keyboard.press('5');
  await expect(page).toHaveURL(/events$/);
  await expect(page.getByText(/events?, 132 selected/)).toBeVisible();
  await expect(page.getByRole('listbox', { name: 'Events' })).toBeFocused();
  await page.keyboard.press('2');
  await expect(page).toHaveURL(new RegExp(`${id}$`));
  await page.keyboard.press('g');
  await expect(marked(page)).toHaveCount(0);
  await expect(velocity.getByRole('button', { name: 'Show' }).first()).toBeFocused();
  // A track that is selected keeps its findings in sight, and those of others beneath.
  await row(page, 'Track 4').click();
  await expect(findings.getByRole('heading').first()).toContainText('here');
  await expect(page.getByRole('region', { name: 'Findings elsewhere' })).toBeVisible();
  // A controller finding goes to the lanes; a step lets what was marked go.
  await findings
    .getByRole('listitem')
    .filter({ hasText: /say nothing new/ })
    .getByRole('button', { name: 'Show' })
    .first()
    .click();
  await expect(page).toHaveURL(/lanes$/);
  await expect(marked(page)).toContainText('values marked');
  await expectAccessible(page);
});

test('every key is on one sheet, is changed by pressing another, and the browser and other commands keep theirs', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await row(page, 'Clarinet').first().focus();
  await page.keyboard.press('?');
  const sheet = page.getByRole('dialog', { name: 'Keys' });
  await expect(sheet).toBeVisible();
  await expectAccessible(page);
  const change = async (name: RegExp, key: string): Promise<void> => {
    await sheet.getByRole('button', { name }).click();
    await page.keyboard.press(key);
  };
  await change(/^Go to: Notes/, 'p');
  await expect(sheet.getByRole('status')).toContainText(
    'P cannot be “Go to: Notes”: “Play or pause” has it',
  );
  await page.keyboard.press('Control+t');
  await expect(sheet.getByRole('status')).toContainText('the browser has it');
  await page.keyboard.press('j');
  await expect(sheet.getByRole('status')).toContainText('“Go to: Notes” is J now');
  // Behind the sheet nothing happens.
  await page.keyboard.press('3');
  await expect(page).toHaveURL(new RegExp(`${id}$`));
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
  await page.keyboard.press('j');
  await expect(page).toHaveURL(/notes$/);
  await page.keyboard.press('3');
  await page.keyboard.press('2');
  await expect(page).toHaveURL(new RegExp(`${id}$`));
  // The server keeps it: another browser has it, the palette says it, and a file of recipes takes it along.
  await expect
    .poll(async () => (await api.send<{ keys: object }>('GET', '/api/preferences')).body.keys)
    .toEqual({ 'go-notes': 'J' });
  const file = (await api.send<{ preferences: { keys: object } }>('GET', '/api/recipes/file')).body;
  expect(file.preferences.keys).toEqual({ 'go-notes': 'J' });
  await page.goto('/recipes');
  await page.getByTestId('recipes-file').setInputFiles({
    name: 'recipes.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"version":1,"recipes":[],"preferences":{"keys":{"play":"V"}}}'),
  });
  await expect(page.getByText('“Paste what was copied” has it')).toBeVisible();
  await page.getByTestId('recipes-file').setInputFiles({
    name: 'recipes.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(file)),
  });
  await expect(page.getByText('the keys and preferences are those of the file')).toBeVisible();
  await page.goto(`/songs/${id}`);
  await page.evaluate(() => localStorage.clear());
  await page.reload();
  await expect(row(page, 'Clarinet').first()).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('the note view');
  await expect(page.getByRole('option', { name: /Notes: the note view/ })).toContainText('J');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/notes$/);
  // What was used last comes first.
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('option').first()).toContainText('Notes: the note view');
  await page.keyboard.press('Escape');
  // All as they came, by one press.
  await page.keyboard.press('?');
  await sheet.getByRole('button', { name: 'All as they came' }).click();
  await page.keyboard.press('Escape');
  await page.keyboard.press('2');
  await page.keyboard.press('3');
  await expect(page).toHaveURL(/notes$/);
});

test(
  'the history goes to any step at once, and the strip shows what each changed',
  { tag: '@quick' },
  async ({ page, api }) => {
    const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
    const names = ['One', 'Two', 'Three', 'Four', 'Five'];
    for (const [n, name] of names.entries())
      await api.step(id, n, 'tracks.rename', { name }, ['t2']);
    const { status, body } = await api.send<{ changed: boolean }>(
      'POST',
      `/api/songs/${id}/steps`,
      {
        operation: 'velocity.set',
        settings: { add: -3 },
        scope: { tracks: 'all', bars: { from: 15, to: 18 } },
        revision: 5,
      },
    );
    expect([status, body.changed]).toEqual([200, true]);
    await page.goto(`/songs/${id}/history`);
    await expectAccessible(page);
    const go = (n: RegExp) => page.getByRole('button', { name: n });
    // Where it changed something, as an independent reader of both files would say: bars 15 to 18.
    await go(/^Here now: .*elocit/).focus();
    await expect
      .poll(
        async () =>
          (await api.send<{ bars: object[] }>('GET', `/api/songs/${id}/steps/6/bars`)).body.bars,
      )
      .toEqual([{ from: 15, to: 18 }]);
    // The strip has them as long as the row has the focus.
    await expect(page.locator('[data-shown-bars]')).toHaveCount(1);
    await go(/^Go to: .*to “Two”$/).click();
    await expect(go(/^Here now: .*to “Two”$/)).toBeFocused();
    expect((await api.song(id)).tracks[1]!.name).toBe('Two');
    await expect(steps(page)).toContainText('2 steps');
    // What was left is there still, and is gone to again; so is the song as it came.
    await go(/^Go to: as received/).click();
    await expect(steps(page)).toContainText('as received');
    await go(/^Go to: .*to “Five”$/).click();
    await expect(steps(page)).toContainText('5 steps');
    expect((await api.song(id)).tracks[1]!.name).toBe('Five');
    expect((await api.send('POST', `/api/songs/${id}/go`, { to: 99 })).status).toBe(404);
  },
);

test('the list of songs tells open findings, tags and the last handoff, and finds by tags', async ({
  page,
  api,
}) => {
  const capture = await api.bring('capture.mid', demo('instrument capture.mid'));
  const groove = await api.bring('groove.mid', demo('market groove.mid'));
  await api.handOff(groove.id);
  await page.goto('/');
  const line = (name: string) => page.getByRole('row').filter({ hasText: name });
  await expect(line('capture').first()).toContainText(/\d+ findings open/);
  await expect(line('groove').first()).toContainText('nothing open');
  await expect(line('groove').first()).toContainText('handed off');
  await line('capture')
    .first()
    .getByRole('button', { name: /^Tags of/ })
    .click();
  await page.keyboard.type('for Mara, check bars');
  await page.keyboard.press('Enter');
  await expect(line('capture').first().getByRole('button', { name: 'for Mara' })).toBeVisible();
  await expect(
    line('capture')
      .first()
      .getByRole('button', { name: /^Tags of/ }),
  ).toBeFocused();
  await expectAccessible(page);
  await line('capture').first().getByRole('button', { name: 'for Mara' }).click();
  await expect(line('groove')).toHaveCount(0);
  await expect(page.getByText(/songs? found/)).toBeVisible();
  const listed = await api.send<{ songs: { id: string; tags: string[]; openFindings?: number }[] }>(
    'GET',
    '/api/songs?search=mara',
  );
  expect(listed.body.songs.map((s) => s.id)).toContain(capture.id);
  // A step makes another revision, of which nothing is known until it is looked over.
  const [had] = listed.body.songs;
  expect(had!.openFindings).toBeGreaterThan(5);
});

test('the event list is narrowed to all but notes, emptied in one step with what went, and stays where it is', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('capture.mid', demo('instrument capture.mid'));
  await page.goto(`/songs/${id}/events`);
  const list = page.getByRole('listbox', { name: 'Events' });
  // A key too many empties nothing.
  await list.focus();
  await page.keyboard.press('Shift+Delete');
  await expect(page.getByText('Everything is listed')).toBeVisible();
  await choose(page.getByRole('combobox', { name: 'Show' }), 'all but notes and lanes');
  await expect(list).not.toContainText('velocity');
  await page.goto(`/songs/${id}/events`);
  // As it was narrowed before, for this song.
  await expect(page.getByRole('combobox', { name: 'Show' })).toContainText(
    'all but notes and lanes',
  );
  await choose(page.getByRole('combobox', { name: 'Show' }), 'programs');
  await list.focus();
  await page.keyboard.press('Control+a');
  await expect(page.getByText(/selected/)).toBeVisible();
  await page.keyboard.press('Shift+Delete');
  await expect(steps(page)).toContainText('1 step');
  await expect(
    page.getByText(/^Deleted \d+ controllers, \d+ program changes in/).first(),
  ).toBeVisible();
  expect((await api.song(id)).tracks.every((t) => t.programs.length === 0)).toBe(true);
  // What is put in is gone to, wherever the list was; its key is typed by its name.
  await choose(page.getByRole('combobox', { name: 'Show' }), 'everything');
  await page.getByRole('button', { name: 'Insert' }).click();
  const form = page.getByRole('region', { name: 'Insert an event' });
  await form.getByRole('textbox', { name: 'At' }).fill('30.1.0');
  await form.getByRole('textbox', { name: 'Key' }).fill('F#7');
  await form.getByRole('textbox', { name: 'Key' }).press('Enter');
  await expect(list.getByRole('option', { name: /F♯7/ })).toHaveAttribute('aria-selected', 'true');
  await expect(list).toBeFocused();
  const top = await list.evaluate((node) => node.scrollTop);
  expect(top).toBeGreaterThan(1000);
  // After a deletion the list is where it was, and so are the keys.
  await page.keyboard.press('Delete');
  await expect(steps(page)).toContainText('3 steps');
  await expect(list).toBeFocused();
  expect(Math.abs((await list.evaluate((node) => node.scrollTop)) - top)).toBeLessThan(40);
});

test('the strip shows what is in view; the view is filled with the song, the scope or the selection', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}/notes`);
  const width = async (): Promise<number> =>
    page.evaluate(() => {
      const [band, strip] = ['[data-in-view]', '[role=slider]'].map(
        (s) => document.querySelector(s)!.getBoundingClientRect().width,
      );
      return band! / strip!;
    });
  await expect(page.locator('[data-in-view]')).toBeVisible();
  // Sixteen of 120 bars.
  await expect.poll(width).toBeGreaterThan(0.1);
  expect(await width()).toBeLessThan(0.2);
  await page.getByRole('application').focus();
  await page.keyboard.press('w');
  await expect.poll(width).toBeGreaterThan(0.95);
  await page.keyboard.press('.');
  await page.keyboard.press('e');
  await expect.poll(width).toBeLessThan(0.05);
  await page.getByRole('group', { name: 'Zoom' }).getByRole('button', { name: 'Song' }).click();
  await expect.poll(width).toBeGreaterThan(0.95);
});

test('what is pointed at on the sheet is told on the strip, and the other way round', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('along.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await expect(row(page, 'Voice').first()).toBeVisible();
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  const along = page.getByTestId('bars-along');
  const line = (): Promise<number> =>
    along.evaluate((e) => parseFloat(getComputedStyle(e, '::after').left) / e.clientWidth);
  const at = (await along.boundingBox())!;
  const cell = (await row(page, 'Viola').boundingBox())!;
  // Bar 63 of 120 begins at 62/120 of the song.
  const part = 62.5 / 120;
  await page.mouse.move(at.x + part * at.width, cell.y + cell.height / 2);
  await expect(strip.getByText(/^63\.\d/)).toBeVisible();
  expect(await line()).toBeCloseTo(part, 2);
  const bars = (await strip.boundingBox())!;
  await page.mouse.move(bars.x + 0.25 * bars.width, bars.y + 40);
  await expect(strip.getByText(/^31\.\d/)).toBeVisible();
  expect(await line()).toBeCloseTo(0.25, 2);
  await page.mouse.move(300, 20);
  await expect(strip.getByText(/^31\.\d/)).toHaveCount(0);
  // Its numbers are those of the marks, and the bars of the scope are shaded.
  await expect(along.locator('span')).toHaveText(['1', '15', '31', '63', '87', '101']);
  await page.mouse.move(bars.x + 0.25 * bars.width, bars.y + 40);
  await page.mouse.down();
  await page.mouse.move(bars.x + 0.5 * bars.width, bars.y + 40, { steps: 3 });
  await page.mouse.up();
  const shade = (await along.locator('div').boundingBox())!;
  expect((shade.x - at.x) / at.width).toBeCloseTo(0.25, 1);
  expect(shade.width / at.width).toBeCloseTo(0.25, 1);
});

test('from a dropped file to nothing left to settle by Enter alone: the focus goes from finding to finding', async ({
  page,
}) => {
  await page.goto('/');
  await drop(page, { name: 'capture.mid', bytes: demo('instrument capture.mid') });
  const next = page.getByRole('link', { name: 'Look it over' });
  await expect(next).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.locator('tr[data-track]').first()).toBeFocused();
  await page.keyboard.press('g');
  const margin = page.getByRole('complementary', { name: 'Margin' });
  const findings = margin.locator('[data-card]');
  const first = findings.first().getByRole('button').first();
  await expect(first).toBeFocused();
  // Seen first, and taken: the finding that stands there now has the focus.
  await page.keyboard.press('Enter');
  await expect(margin.getByRole('button', { name: 'Do it' })).toBeEnabled();
  await page.keyboard.press('Escape');
  await expect(first).toBeFocused();
  // Settled at once, one after another, until none is left.
  const settled = margin.getByRole('heading', { name: 'Nothing to settle' });
  const shown = () => findings.evaluateAll((cards) => cards.map((c) => c.textContent).join('\n'));
  for (let presses = 0; !(await settled.isVisible()); presses++) {
    expect(presses).toBeLessThan(30);
    await expect(first).toBeFocused();
    const had = await shown();
    await page.keyboard.press('Shift+Enter');
    await expect
      .poll(async () => (await settled.isVisible()) || !['', had].includes(await shown()))
      .toBe(true);
  }
  await expect(settled).toBeFocused();
  // Loaded again it has no focus, as any page.
  await page.reload();
  await expect(settled).toBeVisible();
  await expect(page.locator('body')).toBeFocused();
});
