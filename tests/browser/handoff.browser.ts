import type { Page } from '@playwright/test';
import { createHash } from 'node:crypto';
import type { Api } from '../support/api.ts';
import { readIndependently } from '../support/independent.ts';
import { asFile, demo, downloaded, expect, expectAccessible, row, test } from './fixture.ts';

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** The demo piece with its sections, on the way out. */
async function openFerry(page: Page, api: Api): Promise<string> {
  const { id } = await api.bring('Crossing.mid', demo('The Lantern Ferry.mid'));
  await api.step(id, 0, 'timing.sections');
  await page.goto(`/songs/${id}/out`);
  return id;
}
const makes = (page: Page) => page.getByRole('button', { name: /^Make the/ });

test('each division is chosen by keys, and the preview says its files before any is made', async ({
  page,
  api,
}) => {
  await openFerry(page, api);
  await expect(makes(page)).toHaveText('Make the file');
  await page.getByRole('radio', { name: /One file/ }).focus();
  const expected = [
    ['A file a track', 'Make the 12 files'],
    ['A file a group', undefined],
    ['A file a drum', 'Make the'],
    ['A file a section', 'Make the'],
    ['A file a track of each section', 'Make the'],
    ['The map alone', 'Make the file'],
  ] as const;
  for (const [name, says] of expected) {
    // The next has the focus before the key is let go, as under a hand.
    await page.keyboard.press('ArrowDown', { delay: 60 });
    await expect(page.getByRole('radio', { checked: true, name: new RegExp(name) })).toBeFocused();
    if (says) await expect(makes(page)).toContainText(says);
    else await expect(page.getByText('No group is named')).toBeVisible();
  }
  await page.keyboard.press('ArrowUp', { delay: 60 });
  await page.keyboard.press('ArrowUp', { delay: 60 });
  await expect(page.getByRole('list', { name: 'Files that would be made' })).toContainText(
    'Crossing 01',
  );
  await expectAccessible(page);
});

test(
  'preview, a setting, preview: what is left out is said before and on the slip, and the files hold it',
  { tag: '@quick' },
  async ({ page, api }) => {
    await openFerry(page, api);
    const left = page.getByRole('region', { name: 'What the slip will say' });
    await expect(left).toContainText('Nothing.');
    await page.getByRole('button', { name: /^In or out/ }).click();
    await page.getByRole('checkbox', { name: 'Programs and banks' }).click();
    await expect(left).toContainText(/Left out as asked: \d+ programs and banks/);
    await page.getByRole('checkbox', { name: 'Programs and banks' }).click();
    await expect(left).toContainText('Nothing.');
    await page.getByRole('checkbox', { name: 'Programs and banks' }).click();
    await expect(left).toContainText('programs and banks');
    await makes(page).click();
    await expect(page.getByRole('link', { name: 'Download' })).toBeFocused();
    await expect(page.getByRole('article', { name: 'Slip' })).toContainText('programs and banks');
    const { bytes } = await downloaded(page, () => page.keyboard.press('Enter'));
    // The way back to what would leave is one press, and the focus is on making it again.
    await page.getByRole('button', { name: 'What would leave now' }).click();
    await expect(makes(page)).toBeFocused();
    expect(
      readIndependently(bytes)
        .tracks.flat()
        .filter((e) => / c./.test(e)),
    ).toEqual([]);
  },
);

test(
  'groups are typed beside tracks, names are a pattern, and all files come as a zip',
  { tag: '@quick' },
  async ({ page, api }) => {
    await openFerry(page, api);
    await page.getByRole('radio', { name: /A file a group/ }).click();
    await page.getByLabel('Group of Violin').fill('Strings');
    await page.getByLabel('Group of Viola').fill('Strings');
    await page.getByLabel('Group of Clarinet', { exact: true }).fill('Winds');
    await expect(makes(page)).toHaveText('Make the 2 files');
    await page.getByRole('button', { name: /^Names/ }).click();
    await page.getByLabel('Pattern of the names').fill('{nn} {track} {bpm}');
    const files = page.getByRole('list', { name: 'Files that would be made' });
    await expect(files).toContainText('01 Strings 66.mid');
    await page.getByLabel('Pattern of the names').fill('{nn} {artist}');
    await expect(page.getByText(/Expected one of \{song\}.*found “\{artist\}”/)).toBeVisible();
    await page.getByLabel('Pattern of the names').fill('{track}');
    await makes(page).click();
    const { name, bytes } = await downloaded(page, () =>
      page.getByRole('link', { name: 'Download all 2 as a zip' }).click(),
    );
    expect(name).toBe('Crossing.zip');
    expect(Buffer.from(bytes).toString('latin1')).toContain('Strings.mid');
  },
);

test('the slip prints on one sheet, however many files there are', async ({ page, api }) => {
  const id = await openFerry(page, api);
  for (const divide of ['whole', 'sections-tracks']) {
    const { body } = await api.send<{ id: string }>('POST', `/api/songs/${id}/handoffs`, {
      divide,
      take: { programs: false },
    });
    await page.goto(`/api/handoffs/${body.id}/slip.html`);
    await expect(page.getByText(/^Left out as asked/).first()).toBeVisible();
    const printed = await page.pdf({ preferCSSPageSize: true });
    expect(printed.toString('latin1').match(/\/Count \d+/g)).toEqual(['/Count 1']);
  }
});

test('files are saved into a folder that is chosen once, under a typed name, and nothing there is written over', async ({
  page,
  api,
}) => {
  // The origin’s private folder stands for one that somebody picks.
  await page.addInitScript(() => {
    let asked = 0;
    Object.assign(window, {
      showDirectoryPicker: () => {
        asked++;
        document.documentElement.dataset.asked = String(asked);
        return navigator.storage.getDirectory();
      },
    });
  });
  await openFerry(page, api);
  await makes(page).click();
  const inFolder = () =>
    page.evaluate(async () => {
      const names: Record<string, string> = {};
      const folder = await navigator.storage.getDirectory();
      for await (const [name, handle] of folder as unknown as AsyncIterable<
        [string, FileSystemFileHandle]
      >) {
        const bytes = new Uint8Array(await (await handle.getFile()).arrayBuffer());
        const hash = await crypto.subtle.digest('SHA-256', bytes);
        names[name] = [...new Uint8Array(hash)]
          .map((b) => b.toString(16).padStart(2, '0'))
          .join('');
      }
      return names;
    });
  await page.getByLabel('Name to save it under').fill('For Ada');
  await page.getByRole('button', { name: /Save into a folder/ }).click();
  await expect(page.getByText('Saved 1 file into')).toBeVisible();
  await page.getByRole('button', { name: /^Save into/ }).click();
  await expect(page.getByText('What was there stays')).toBeVisible();
  const saved = await inFolder();
  expect(Object.keys(saved).sort()).toEqual(['For Ada (2).mid', 'For Ada.mid']);
  const { bytes } = await downloaded(page, () =>
    page.getByRole('link', { name: 'Download' }).click(),
  );
  expect(saved['For Ada.mid']).toBe(sha256(bytes));
  expect(await page.evaluate(() => document.documentElement.dataset.asked)).toBe('1');
});

test('a grip on a track, the scope and the whole song drags out a file that its address makes; the row’s own drag still reorders', async ({
  page,
  api,
}) => {
  const id = await openFerry(page, api);
  await page.goto(`/songs/${id}`);
  const carried = async (name: string) =>
    page.getByRole('link', { name }).evaluate((grip) => {
      const dataTransfer = new DataTransfer();
      grip.dispatchEvent(new DragEvent('dragstart', { dataTransfer, bubbles: true }));
      return {
        file: dataTransfer.getData('DownloadURL'),
        address: dataTransfer.getData('text/uri-list'),
      };
    });
  const fetched = async (address: string) => {
    const response = await page.request.get(address);
    expect(response.status()).toBe(200);
    return readIndependently(new Uint8Array(await response.body()));
  };
  const viola = await carried('Viola as a file');
  expect(viola.file).toBe(`audio/midi:Crossing Viola.mid:${viola.address}`);
  const one = await fetched(viola.address);
  expect(one.tracks).toHaveLength(2);
  expect(one.tracks[1]!.join()).toContain(Buffer.from('Viola').toString('hex'));
  const whole = await fetched((await carried('The whole song as a file')).address);
  expect(whole.tracks).toHaveLength(13);
  // Bars 39 and 40 on the strip: of the selected track alone.
  await row(page, 'Hand Drums').click();
  const box = (await page.getByRole('slider', { name: 'Place in the bars' }).boundingBox())!;
  await page.mouse.move(box.x + (38.4 / 120) * box.width, box.y + 32);
  await page.mouse.down();
  await page.mouse.move(box.x + (39.4 / 120) * box.width, box.y + 32, { steps: 3 });
  await page.mouse.up();
  const some = await carried('These bars of the selected tracks, or of all, as a file');
  expect(some.file).toContain('audio/midi:Crossing bars 39-40.mid:');
  const bars = await fetched(some.address);
  expect(bars.tracks).toHaveLength(2);
  // Two bars of 7/8 at 480 PPQ.
  expect(bars.tracks[1]!.at(-1)).toBe('3360 ff2f');
  const pressed = await downloaded(page, () =>
    page.getByRole('link', { name: 'The whole song as a file' }).click(),
  );
  expect(pressed.name).toBe('Crossing.mid');
  // The row’s own drag is for its place, and carries no file.
  const drag = await row(page, 'Viola')
    .getByLabel('Drag Viola', { exact: true })
    .getAttribute('draggable');
  expect(drag).toBeNull();
});

test('what was copied is text for anything else: a line an event, and the map as a list', async ({
  page,
  api,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const id = await openFerry(page, api);
  await page.goto(`/songs/${id}`);
  await row(page, 'Viola').click();
  await page.keyboard.press('Control+c');
  await expect
    .poll(() => page.evaluate(() => navigator.clipboard.readText()))
    .toMatch(/^Position\tTrack\tPort\tChannel\tWhat\tValue\n1\.1\.0\tViola/);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('markers and the map as text');
  await page.keyboard.press('Enter');
  await expect.poll(() => page.evaluate(() => navigator.clipboard.readText())).toContain('section');
});

test('a file of one’s own goes out by bars, repeated, and comes back as it was sent', async ({
  page,
}) => {
  await page.goto('/');
  await page.setInputFiles('input[type=file]', asFile('market groove.mid'));
  await page.getByRole('link', { name: /Hand off/ }).click();
  await page.getByLabel('How often the bars follow each other').fill('3');
  const files = page.getByRole('list', { name: 'Files that would be made' });
  await expect(files).toContainText('market groove.mid');
  await makes(page).click();
  const { bytes } = await downloaded(page, () =>
    page.getByRole('link', { name: 'Download' }).click(),
  );
  const before = readIndependently(demo('market groove.mid')).tracks.flat();
  const notes = (events: readonly string[]): number =>
    events.filter((e) => /^\d+ 9.{3}(?!00)..$/.test(e)).length;
  expect(notes(readIndependently(bytes).tracks.flat())).toBe(3 * notes(before));
});
