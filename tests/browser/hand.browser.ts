import type { Page } from '@playwright/test';
import { readIndependently } from '../support/independent.ts';
import { fourNotes, placeOfNote as place } from './four-notes.ts';
import { choose, demo, expect, expectAccessible, test } from './fixture.ts';
import { frames } from './settled.ts';

const part = (bytes: Uint8Array): readonly string[] => readIndependently(bytes).tracks[1]!;
const notes = (bytes: Uint8Array): string[] => part(bytes).filter((e) => / [89]/.test(e));

async function drag(
  page: Page,
  from: { x: number; y: number },
  to: { x: number; y: number },
): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 3 });
  await page.mouse.up();
}

test(
  'notes are moved, stretched, drawn, made louder and deleted on the plane, and the file has just that',
  { tag: '@quick' },
  async ({ page, api }) => {
    const { id } = await api.bring('four.mid', fourNotes());
    await page.goto(`/songs/${id}/notes`);
    const plane = page.getByRole('application');
    await expect(plane).toBeVisible();
    await expectAccessible(page);
    const steps = async (n: number): Promise<void> => {
      await expect(page.getByRole('link', { name: 'History' })).toContainText(`${n} step`);
      await expect(page.getByRole('main', { name: 'Note view' })).toHaveAttribute(
        'aria-busy',
        'false',
      );
    };
    // The first note two steps of the grid (a sixteenth is 24 ticks) later and three keys up.
    await drag(page, await place(page, 30, 60), await place(page, 30 + 48, 63));
    await steps(1);
    // By keyboard: still selected, an octave up, then longer by a step.
    await plane.focus();
    await page.keyboard.press('Shift+ArrowUp');
    await steps(2);
    await page.keyboard.press('Alt+ArrowRight');
    await steps(3);
    await page.keyboard.press('Alt+ArrowUp');
    await steps(4);
    // The last one goes.
    const last = await place(page, 3 * 384 + 40, 65);
    await page.mouse.click(last.x, last.y);
    await page.getByRole('button', { name: 'Delete' }).click();
    await steps(5);
    // A new one in bar five, a quarter long.
    await page.getByRole('button', { name: 'Draw' }).click();
    await drag(page, await place(page, 1536 + 10, 62), await place(page, 1536 + 97, 62));
    await steps(6);
    expect(notes((await api.handOff(id)).bytes)).toEqual([
      '48 904b41',
      '168 804b40',
      '384 903e3d',
      '480 803e40',
      '768 90403e',
      '864 804040',
      '1536 903e3f',
      '1632 803e40',
    ]);
  },
);

test('keys pressed one after the other all count, whatever is on its way, and a run of them is one step', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('four.mid', fourNotes());
  await page.goto(`/songs/${id}/notes`);
  const plane = page.getByRole('application');
  await expect(plane).toBeVisible();
  const first = await place(page, 30, 60);
  await page.mouse.click(first.x, first.y);
  // Some keys come at once, some meet a step on its way, some its notes.
  const isStep = (r: { url(): string; method(): string }): boolean =>
    r.method() === 'POST' && r.url().endsWith('/steps');
  for (const meets of ['', '', 'asked', '', 'answered', '', '', 'answered']) {
    const met =
      meets === 'asked'
        ? page.waitForRequest(isStep)
        : meets === 'answered'
          ? page.waitForResponse((r) => isStep(r.request()))
          : frames(page, 2);
    await page.keyboard.press('ArrowRight');
    await met;
  }
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Alt+ArrowUp');
  // To the last note, which goes.
  for (const key of ['.', '.', '.', 'Delete']) await page.keyboard.press(key);
  await expect
    .poll(async () => notes((await api.handOff(id)).bytes))
    .toEqual(['192 903d41', '288 803d40', '384 903e3d', '480 803e40', '768 90403e', '864 804040']);
  expect((await api.song(id)).steps).toBeLessThan(9);
});

test('notes moved by keys are moved, though the view is left at once', async ({ page, api }) => {
  const { id } = await api.bring('four.mid', fourNotes());
  await page.goto(`/songs/${id}/notes`);
  await expect(page.getByRole('application')).toBeVisible();
  const first = await place(page, 30, 60);
  await page.mouse.click(first.x, first.y);
  await page.keyboard.press('ArrowRight');
  await page.evaluate(() =>
    document.querySelector<HTMLAnchorElement>('a[href$="/history"]')!.click(),
  );
  await expect.poll(async () => notes((await api.handOff(id)).bytes)[0]).toBe('24 903c3c');
});

test('velocities follow a stroke, and a rectangle selects', async ({ page, api }) => {
  const { id } = await api.bring('four.mid', fourNotes());
  await page.goto(`/songs/${id}/notes`);
  const strip = page.getByRole('img', { name: /^Velocities/ });
  const box = (await strip.boundingBox())!;
  const x = async (tick: number): Promise<number> => (await place(page, tick, 60)).x;
  // A flat stroke at the height of 127 over the first two notes.
  await drag(page, { x: (await x(0)) + 1, y: box.y + 6 }, { x: (await x(384)) + 2, y: box.y + 6 });
  await expect(page.getByText(/Drew the velocity of 2 notes/)).toBeVisible();
  await drag(page, await place(page, 700, 67), await place(page, 1300, 61));
  await expect(page.getByText('2 notes selected')).toBeVisible();
  expect(
    notes((await api.handOff(id)).bytes)
      .filter((e) => e.includes(' 90'))
      .map((e) => e.slice(-2)),
  ).toEqual(['7f', '7f', '3e', '3f']);
});

test('a lane is drawn, erased, parked and unparked', async ({ page, api }) => {
  const { id } = await api.bring('four.mid', fourNotes());
  await page.goto(`/songs/${id}/lanes`);
  const lane = page.getByRole('img', { name: 'expression of Oboe' });
  await expect(lane).toBeVisible();
  await expectAccessible(page);
  const box = (await lane.boundingBox())!;
  const x = (tick: number): number => box.x + (tick / (16 * 384)) * box.width;
  const expression = async (): Promise<string[]> =>
    part((await api.handOff(id)).bytes).filter((e) => e.includes('b00b'));
  await drag(page, { x: x(384), y: box.y + 3 }, { x: x(768), y: box.y + 3 });
  await expect(page.getByText(/Drew expression in Oboe/)).toBeVisible();
  const drawn = await expression();
  expect(drawn.filter((e) => e.endsWith('7f'))).toHaveLength(1);
  expect(
    drawn.filter((e) => Number(e.split(' ')[0]) > 400 && Number(e.split(' ')[0]) < 760),
  ).toEqual([]);
  await page.getByRole('button', { name: 'Erase' }).click();
  await drag(page, { x: x(1000), y: box.y + 20 }, { x: x(1700), y: box.y + 20 });
  await expect(page.getByText(/Erased expression in Oboe/)).toBeVisible();
  const left = await expression();
  expect(left.filter((e) => Number(e.split(' ')[0]) > 1010)).toEqual([]);
  await page.getByRole('button', { name: 'Park', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Unpark' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Lanes' })).toContainText('1 of 1 parked');
  expect(await expression()).toEqual([]);
  await page.getByRole('button', { name: 'Unpark' }).click();
  await expect(page.getByRole('button', { name: 'Park', exact: true })).toBeVisible();
  expect(await expression()).toEqual(left);
});

test('lanes use the height there is, and stand together by track or by controller', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('lanes.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}/lanes`);
  const lanes = page.getByRole('group', { name: 'Lanes' });
  const height = async (name: string): Promise<number> =>
    (await lanes.getByRole('img', { name, exact: true }).boundingBox())!.height;
  await expect(lanes.getByRole('img', { name: 'expression of Voice' })).toBeVisible();
  // One that holds one value is a line until it is asked to be higher.
  expect(await height('expression of Voice')).toBeGreaterThan(75);
  expect(await height('volume of Voice')).toBeLessThan(40);
  await lanes.getByRole('button', { name: 'Room to draw: 7 volume' }).first().click();
  expect(await height('volume of Voice')).toBeGreaterThan(75);
  await choose(page.getByRole('combobox', { name: 'Together by' }), 'controller');
  const heads = lanes.getByRole('heading');
  await expect(heads.first()).toHaveText(/^7 volume/);
  // Folded, the others have the room: the one that is left is as high as the view.
  for (const name of [/^7 volume/, /^10 pan/])
    await lanes.getByRole('button', { name, expanded: true }).first().click();
  await choose(page.getByRole('combobox', { name: 'Show' }), 'expression');
  await lanes.getByRole('button', { name: /^11 expression/ }).waitFor();
  const all = await lanes
    .getByRole('img')
    .evaluateAll((list) =>
      list.reduce((sum, each) => sum + each.getBoundingClientRect().height, 0),
    );
  const room = (await lanes.boundingBox())!.height;
  expect(all).toBeGreaterThan(0.85 * room);
  await expectAccessible(page);
  // Kept for the next time.
  await page.reload();
  await expect(heads.first()).toHaveText(/^7 volume/);
});

test('events are edited in place and inserted, and what cannot be is told', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('four.mid', fourNotes());
  await page.goto(`/songs/${id}/events`);
  await choose(page.getByRole('combobox', { name: 'Show' }), 'notes');
  const list = page.getByRole('listbox', { name: 'Events' });
  await list.getByRole('option').first().dblclick();
  await expectAccessible(page);
  await page.getByLabel('Key', { exact: true }).fill('200');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('alert')).toHaveText(
    'Key: a name such as C4, or a number from 0 to 127',
  );
  await page.getByLabel('Key', { exact: true }).fill('61');
  await page.getByLabel('At', { exact: true }).fill('1.9');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('1.9 is no place');
  await page.getByLabel('At', { exact: true }).fill('1.2.0');
  await page.keyboard.press('Enter');
  await expect(list.getByRole('option').first()).toContainText('1.2.0');
  await page.getByRole('button', { name: 'Insert', exact: true }).click();
  const form = page.getByRole('region', { name: 'Insert an event' });
  await choose(form.getByLabel('Kind of event'), 'Marker');
  await form.getByLabel('At', { exact: true }).fill('3');
  await form.getByLabel('Text').fill('Chorus');
  await form.getByRole('button', { name: 'Insert' }).click();
  await expect(form).toHaveCount(0);
  const { bytes } = await api.handOff(id);
  expect(notes(bytes).slice(0, 2)).toEqual(['96 903d3c', '192 803d40']);
  expect(readIndependently(bytes).tracks[0]).toContain('768 ff06 43686f727573');
  await page.getByLabel('Lowest key').fill('64');
  await expect(page.getByText('2 events')).toBeVisible();
});

test(
  'dragging on the bar strip sets the bars that steps and lists work on',
  { tag: '@quick' },
  async ({ page, api }) => {
    const { id } = await api.bring('four.mid', fourNotes());
    await page.goto(`/songs/${id}/events`);
    const strip = page.getByRole('slider', { name: 'Place in the bars' });
    const box = (await strip.boundingBox())!;
    await drag(
      page,
      { x: box.x + box.width * 0.3, y: box.y + 40 },
      { x: box.x + box.width * 0.7, y: box.y + 40 },
    );
    await expect(page.getByText(/, bars 2 to 3;/)).toBeVisible();
    await choose(page.getByRole('combobox', { name: 'Show' }), 'notes');
    await expect(page.getByText('2 events')).toBeVisible();
    await page.getByRole('link', { name: /Look over/ }).click();
    await page.getByRole('button', { name: /^Transpose/ }).click();
    const step = page.getByRole('region', { name: 'Step' });
    await step.getByRole('spinbutton', { name: 'Semitones' }).fill('12');
    await expect(step).toContainText('Only in bars 2 to 3');
    await step.getByRole('button', { name: 'Do it' }).click();
    await expect(step).toHaveCount(0);
    expect(
      notes((await api.handOff(id)).bytes)
        .filter((e) => e.includes(' 90'))
        .map((e) => e.split(' ')[1]!.slice(2, 4)),
    ).toEqual(['3c', '4a', '4c', '41']);
    await page.getByRole('button', { name: 'Bars 2 to 3' }).click();
    await expect(page.getByRole('button', { name: 'Bars 2 to 3' })).toHaveCount(0);
  },
);

test('selected bars go where a step, an undo and a redo move the music', async ({ page, api }) => {
  const { id } = await api.bring('four.mid', fourNotes());
  await page.goto(`/songs/${id}`);
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  const box = (await strip.boundingBox())!;
  await drag(
    page,
    { x: box.x + box.width * 0.3, y: box.y + 40 },
    { x: box.x + box.width * 0.7, y: box.y + 40 },
  );
  await expect(page.getByRole('button', { name: 'Bars 2 to 3' })).toBeVisible();
  await page.getByRole('button', { name: /^Add, drop or mark a lead-in/ }).click();
  await page.getByRole('region', { name: 'Step' }).getByRole('button', { name: 'Do it' }).click();
  // The same music, a bar later.
  await expect(page.getByRole('button', { name: 'Bars 3 to 4' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Bars 2 to 3' })).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('button', { name: 'Bars 3 to 4' })).toBeVisible();
});
