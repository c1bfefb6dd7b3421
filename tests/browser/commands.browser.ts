import { operations } from '#core/operations/index.ts';
import { demo, expect, row, test } from './fixture.ts';
import { frames, gate } from './settled.ts';

test('any step is begun by its name from any view, has the focus, and is done by Enter; Escape in the filter shows all again', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await row(page, 'Clarinet').first().click();
  // From another view: the sheet is gone to, where the step is for the track that is selected.
  await page.getByRole('link', { name: 'Notes' }).click();
  await expect(page.getByRole('application')).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('double a');
  await expect(page.getByRole('option', { name: 'Double a part …' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('On Clarinet', { exact: true })).toBeVisible();
  const step = page.getByRole('region', { name: 'Step' });
  await expect(step).toBeFocused();
  await expect(page.getByRole('button', { name: 'Do it' })).toBeEnabled();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Doubled \d+ notes on Clarinet, octave down/).first()).toBeVisible();
  // Enter in a field does the step as well.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('transpose');
  await page.keyboard.press('Enter');
  await expect(step).toBeFocused();
  await page.getByRole('spinbutton', { name: 'Semitones' }).fill('2');
  await expect(page.getByRole('button', { name: 'Do it' })).toBeEnabled();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Transposed \d+ notes in Clarinet by \+2/).first()).toBeVisible();
  // The margin's list of steps, by what they say.
  const find = page.getByRole('searchbox', { name: 'Find a step' });
  await find.fill('grid');
  await expect(page.getByRole('button', { name: 'Quantise …' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Double a part …' })).toHaveCount(0);
  await find.fill('nothing of the kind');
  await expect(page.getByText('No step of that name')).toBeVisible();
  await find.press('Escape');
  await expect(page.getByRole('button', { name: 'Double a part …' })).toBeVisible();
  await find.fill('quantise');
  await find.press('Enter');
  await expect(page.getByRole('region', { name: 'Step' })).toContainText('Quantise');
});

test('Enter is never too early for the list, on a machine slowed four times with keys pressed without a pause', async ({
  page,
  api,
  context,
}) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await row(page, 'Clarinet').first().click();
  const devtools = await context.newCDPSession(page);
  await devtools.send('Emulation.setCPUThrottlingRate', { rate: 4 });
  const take = async (typed: string): Promise<void> => {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(typed);
    await page.keyboard.press('Enter');
  };
  await page.keyboard.press('Delete');
  // The step is still under way: there is nothing to undo yet.
  await take('undo');
  await expect(page.getByText(/^Undone/).first()).toBeVisible();
  await expect(row(page, 'Clarinet').first()).toBeVisible();
  for (const [typed, at] of [
    ['hand off', /out$/],
    ['history', /history$/],
    ['event list', /events$/],
    ['note view', /notes$/],
  ] as const) {
    await take(typed);
    await expect(page).toHaveURL(at);
  }
  // A song that the server has to look for first.
  await api.bring('pelican.mid', demo('phone sketch.mid'));
  await take('pelican');
  await expect(page.getByText('pelican').first()).toBeVisible();
});

test('a step that is refused is not undone by a key pressed while it is under way, nor the one before it', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await api.step(id, 0, 'tracks.rename', { name: 'Chalumeau' }, ['t3']);
  await page.goto(`/songs/${id}`);
  await row(page, 'Chalumeau').first().click();
  // The removal is answered late, and refused.
  const pressed = gate();
  await page.route('**/steps', async (route) => {
    if (route.request().method() !== 'POST') return route.continue();
    await pressed.passed;
    await route.fulfill({ status: 503, json: { code: 'unavailable', message: 'Not now.' } });
  });
  let undone = 0;
  page.on('request', (r) => void (undone += Number(r.url().endsWith('/undo'))));
  await page.keyboard.press('Delete');
  await page.keyboard.press('Control+z');
  await frames(page, 10);
  const refused = page.waitForResponse((r) => r.url().endsWith('/steps') && r.status() === 503);
  pressed.open();
  await refused;
  // Whatever comes of the key has been asked for by then.
  await page.waitForLoadState('networkidle');
  await expect(row(page, 'Chalumeau').first()).toBeVisible();
  expect(undone).toBe(0);
});

test('no field of any step reaches beyond the margin at 1280 pixels', async ({ page, api }) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  const step = page.getByRole('region', { name: 'Step', exact: true });
  const beyond: string[] = [];
  for (const view of ['', '/timing', '/arrange']) {
    await page.goto(`/songs/${id}${view}`);
    const begins = page.getByRole('complementary').getByRole('button', { name: /…$/ });
    if (view === '') await row(page, 'Clarinet').first().click();
    await expect.poll(() => begins.count()).toBeGreaterThan(5);
    const shown = new Set(await begins.allTextContents());
    const names = operations.map((o) => `${o.title} …`).filter((name) => shown.has(name));
    expect(names.length).toBeGreaterThan(3);
    for (const name of names) {
      await begins.filter({ hasText: name }).first().click();
      await expect(step).toBeVisible();
      const over = await step.evaluate((region) => {
        const { right } = region.getBoundingClientRect();
        return [...region.querySelectorAll('input, button, [role="combobox"], label, p, span')]
          .filter((e) => e.getBoundingClientRect().right > right + 0.5)
          .filter((e) => getComputedStyle(e).position !== 'absolute')
          .map((e) => e.textContent || e.getAttribute('aria-label'));
      });
      if (over.length > 0) beyond.push(`${name}: ${over.join(', ')}`);
      await page.keyboard.press('Escape');
      await expect(step).toHaveCount(0);
    }
  }
  expect(beyond).toEqual([]);
});
