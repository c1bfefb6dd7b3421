import { readIndependently } from '../support/independent.ts';
import {
  choose,
  asFile,
  demo,
  downloaded,
  drop,
  expect,
  expectAccessible,
  names,
  row,
  test,
} from './fixture.ts';

const hex = (text: string): string => Buffer.from(text).toString('hex');

test(
  'a file dropped on the page is looked over, renamed, reordered, cut down, undone, redone and downloaded with exactly that difference',
  { tag: '@quick' },
  async ({ page }) => {
    const file = demo('The Lantern Ferry.mid');
    const before = readIndependently(file).tracks;
    await page.goto('/');
    await drop(page, { name: 'The Lantern Ferry.mid', bytes: file });
    await expect(page.getByRole('main', { name: 'Bring in' })).toContainText(
      '12 parts with 3,687 notes',
    );
    await expect(
      page.getByText('None. It is written as the specification wants it.'),
    ).toBeVisible();
    await page.getByRole('link', { name: 'Look it over' }).click();
    await expect(page.locator('tr[data-track]')).toHaveCount(13);

    // Rename in place.
    await row(page, 'Voice').first().dblclick();
    await page.getByRole('textbox', { name: 'Name of Voice' }).fill('Ferryman ♪');
    await page.keyboard.press('Enter');
    await expect(row(page, 'Ferryman ♪')).toBeVisible();

    // Reorder by dragging: the double bass above the clarinet.
    const grip = row(page, 'Double Bass').getByLabel('Drag Double Bass');
    const from = (await grip.boundingBox())!;
    const target = (await row(page, 'Clarinet').first().boundingBox())!;
    await page.mouse.move(from.x + 4, from.y + 6);
    await page.mouse.down();
    await page.mouse.move(from.x + 4, from.y - 30, { steps: 4 });
    await page.mouse.move(from.x + 4, target.y + 8, { steps: 12 });
    await page.mouse.up();
    await expect
      .poll(() => names(page))
      .toEqual([
        'The Lantern Ferry',
        'Ferryman ♪',
        'Double Bass',
        'Clarinet',
        'Bass Clarinet',
        'Accordion',
        'Marimba',
        'Toy Piano',
        'Glass Harmonica',
        'Violin',
        'Viola',
        'Hand Drums',
        'Cello',
      ]);

    // Remove two at once, undo, redo.
    await row(page, 'Marimba').click();
    await row(page, 'Toy Piano').click({ modifiers: ['Shift'] });
    await expect(page.getByRole('complementary')).toContainText('Removing takes out 514 notes');
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await expect(page.locator('tr[data-track]')).toHaveCount(11);
    await page.keyboard.press('Control+z');
    await expect(page.locator('tr[data-track]')).toHaveCount(13);
    await page.keyboard.press('Control+Shift+z');
    await expect(page.locator('tr[data-track]')).toHaveCount(11);

    await page.getByRole('link', { name: /Hand off/ }).click();
    await page.getByRole('button', { name: 'Make the file' }).click();
    await expect(page.getByText(/Read back: 11 tracks/)).toBeVisible();
    await expect(page.getByRole('article', { name: 'Slip' })).toContainText('Marimba');
    const got = await downloaded(page, () =>
      page.getByRole('link', { name: 'Download', exact: true }).click(),
    );
    expect(got.name).toBe('The Lantern Ferry.mid');
    const renamed = before[1]!.map((e) =>
      e.startsWith('0 ff03') ? `0 ff03 ${hex('Ferryman ♪')}` : e,
    );
    expect(readIndependently(got.bytes).tracks).toEqual([
      before[0],
      renamed,
      before[12],
      ...[2, 3, 4, 7, 8, 9, 10, 11].map((i) => before[i]),
    ]);

    // The history tells it all, and the original is still what came.
    await page.getByRole('link', { name: /History/ }).click();
    await expect(page.getByRole('main', { name: 'History' })).toContainText(
      'Removed Marimba, Toy Piano',
    );
    await page.getByRole('link', { name: /Bring in/ }).click();
    const original = await downloaded(page, () =>
      page.getByRole('link', { name: 'Original' }).click(),
    );
    expect(original.bytes).toEqual(file);
  },
);

test('everything on the sheet works by keys alone', async ({ page, api }) => {
  const { id } = await api.bring('keys.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await page.locator('tr[data-track]').first().focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(row(page, 'Clarinet').first()).toBeFocused();
  await page.keyboard.press('F2');
  await page.keyboard.type('Klarinette');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Klarinette')).toBeVisible();
  await page.locator('tr[data-track]').nth(2).focus();
  await page.keyboard.press('Space');
  // Quicker than steps are taken: down by two places, and up by three.
  for (const key of ['Down', 'Down', 'Up', 'Up', 'Up'])
    await page.keyboard.press(`Alt+Arrow${key}`);
  await expect(page.getByRole('link', { name: 'History' })).toContainText('6 steps');
  await expect
    .poll(async () => (await names(page)).slice(0, 3))
    .toEqual(['The Lantern Ferry', 'Klarinette', 'Voice']);
  await page.keyboard.press('Delete');
  await expect(page.locator('tr[data-track]')).toHaveCount(12);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('undo');
  await page.keyboard.press('Enter');
  await expect(page.locator('tr[data-track]')).toHaveCount(13);
  const song = await api.song(id);
  expect(song.tracks.map((t) => t.name).slice(0, 3)).toEqual([
    'The Lantern Ferry',
    'Klarinette',
    'Voice',
  ]);
});

test('several tracks are numbered in one go, and the song is named in place', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('phone.mid', demo('phone sketch.mid'));
  await page.goto(`/songs/${id}`);
  await expect(page.getByText('no name')).toHaveCount(4);
  await page.getByRole('checkbox', { name: 'Select all tracks' }).click();
  await page.getByRole('checkbox', { name: 'Select track 1' }).click();
  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByRole('textbox', { name: 'Name of 4 tracks' }).fill('Sketch {n}');
  await page.keyboard.press('Enter');
  await expect
    .poll(() => names(page))
    .toEqual(['song map', 'Sketch 1', 'Sketch 2', 'Sketch 3', 'Sketch 4']);
  await page.getByRole('button', { name: 'phone' }).click();
  await page.getByRole('textbox', { name: 'Name of the song' }).fill('Ferry sketch');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Ferry sketch', level: 1 })).toBeVisible();
  await expect(page).toHaveTitle('Ferry sketch · Amber Satchel');
});

test(
  'many files come in at once with progress; what is no MIDI file is named, the damaged one is explained',
  { tag: '@quick' },
  async ({ page }) => {
    await page.goto('/');
    const files = ['phone sketch.mid', 'damaged copy.mid', 'market groove.mid'].map((n) =>
      asFile(n),
    );
    await page
      .getByTestId('files')
      .setInputFiles([
        ...files,
        asFile('holiday.zip', Uint8Array.of(0x50, 0x4b, 3, 4, 0, 0, 0, 0)),
        asFile('letter.mid', new TextEncoder().encode('Dear producer')),
      ]);
    await expect(page.getByText('5 files done')).toBeVisible();
    await expect(page.getByRole('region', { name: 'Arriving' })).toContainText(
      'This is no MIDI file',
    );
    await expect(page.getByRole('region', { name: 'Arriving' })).toContainText(
      'The archive cannot be unpacked',
    );
    await expect(page.getByRole('region', { name: 'Arriving' })).toContainText(
      'Unpack it, and bring in the files by themselves.',
    );
    await page.getByRole('link', { name: 'damaged copy.mid' }).click();
    await expect(page.getByRole('region', { name: 'Faults' })).toContainText(
      'The file ends inside a chunk',
    );
    await expect(page.getByRole('region', { name: 'Faults' })).toContainText('track 13');
  },
);

test('a song removed by mistake is brought back', async ({ page, api }) => {
  await api.bring('oops.mid', demo('market groove.mid'));
  await page.goto('/');
  await page.getByRole('button', { name: 'Remove oops' }).click();
  await expect(page.getByRole('link', { name: 'oops' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Show removed ones' }).click();
  await page.getByRole('button', { name: 'Bring oops back' }).click();
  await page.getByRole('button', { name: 'Back to the songs' }).click();
  await expect(page.getByRole('link', { name: 'oops', exact: true })).toBeVisible();
});

test('hundreds of songs: found, ordered, and only those in view are drawn; a removed one is told until when it is kept', async ({
  page,
  api,
}) => {
  const groove = demo('market groove.mid');
  for (const hundred of [0, 1, 2])
    await api.upload(
      ...Array.from({ length: 90 }, (_, n) => ({
        name: `take ${hundred * 90 + n} ${n === 7 ? 'harbour' : 'street'}.mid`,
        bytes: groove,
      })),
    );
  await page.goto('/');
  const table = page.getByRole('table', { name: 'Songs' });
  await expect(table).toBeVisible();
  await expect(table).toHaveAttribute('aria-rowcount', /^\d{3}$/);
  expect(await page.locator('*').count()).toBeLessThan(1200);
  // Other tests' songs are older; only these are looked at.
  await page.getByRole('searchbox', { name: 'Search songs' }).fill('street');
  await expect(page.getByText('267 songs found')).toBeVisible();
  // Scrolled to its end, later pages have come.
  const rows = page.getByRole('rowgroup', { name: 'Rows' });
  await expect(async () => {
    await rows.evaluate((r) => r.scrollTo(0, r.scrollHeight));
    await expect(page.getByRole('link', { name: 'take 0 street', exact: true })).toBeVisible({
      timeout: 1000,
    });
  }).toPass();
  expect(await page.locator('*').count()).toBeLessThan(1200);
  await page.getByRole('searchbox', { name: 'Search songs' }).fill('harbour');
  await expect(page.getByText('3 songs found')).toBeVisible();
  await choose(page.getByLabel('Order'), 'by name');
  await expect(table.getByRole('link').first()).toHaveText('take 187 harbour');
  await page.getByRole('button', { name: 'Remove take 7 harbour' }).click();
  await expect(
    page.getByText(/It can be brought back until \d+ \w+ \d{4}; then it is purged/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Show removed ones' }).click();
  await expect(page.getByText('Removed songs are kept for 90 days')).toBeVisible();
  await expect(page.getByRole('row', { name: /take 7 harbour/ })).toBeVisible();
  await expectAccessible(page);
});

test(
  'a step on a song that somebody else changed is refused and the page shows the newer one',
  { tag: '@quick' },
  async ({ page, api }) => {
    const { id } = await api.bring('two.mid', demo('The Lantern Ferry.mid'));
    await page.goto(`/songs/${id}`);
    await expect(row(page, 'Voice').first()).toBeVisible();
    await api.step(id, 0, 'tracks.rename', { name: 'Changed elsewhere' }, ['t5']);
    await row(page, 'Violin').click();
    await page.keyboard.press('Delete');
    await expect(page.getByText('The song has changed since you looked')).toBeVisible();
    await expect(row(page, 'Changed elsewhere')).toBeVisible();
    await expect(page.locator('tr[data-track]')).toHaveCount(13);
    // What was asked is offered again, of the song as it is.
    await page.getByRole('button', { name: 'Take it on the song as it is' }).click();
    await expect(page.locator('tr[data-track]')).toHaveCount(12);
    await expect(row(page, 'Violin')).toHaveCount(0);
  },
);

test('what the server could not answer is asked for again by a press', async ({ page }) => {
  let away = true;
  await page.route('**/api/recipes', (route) => (away ? route.abort() : route.continue()));
  await page.goto('/recipes');
  await expect(page.getByText('The server does not answer')).toBeVisible();
  away = false;
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('button', { name: /^Notes only/ })).toBeVisible();
});

test('an address that leads nowhere says so', async ({ page }) => {
  await page.goto('/songs/00000000-0000-4000-8000-000000000000');
  await expect(page.getByText('There is no such song')).toBeVisible();
  await page.getByRole('link', { name: 'Back to the songs' }).click();
  await expect(page.getByRole('heading', { name: 'Amber Satchel' })).toBeVisible();
});
