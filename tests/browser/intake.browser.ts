import { createHash } from 'node:crypto';
import type { SongView, Uploaded } from '#contracts/songs.ts';
import { readIndependently } from '../support/independent.ts';
import { zipOf } from '../support/zip.ts';
import { asFile, choose, demo, drop, expect, expectAccessible, row, test } from './fixture.ts';

const ferry = 'The Lantern Ferry.mid';

test('a file dropped on an open song shows what it holds; two of its tracks come in at bar 17 without their programs, and go again', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('sketch.mid', demo('phone sketch.mid'));
  const before = await api.song(id);
  await page.goto(`/songs/${id}`);
  await expect(page.locator('tr[data-track]').first()).toBeVisible();
  await drop(page, { name: ferry, bytes: demo(ferry) });
  const main = page.getByRole('main', { name: 'Bring in' });
  await expect(main).toContainText('12 tracks · 3,687 notes');
  // Nothing was taken, and no song was made of it.
  expect((await api.song(id)).revision).toBe(before.revision);
  expect((await api.send<{ total: number }>('GET', '/api/songs?search=Lantern')).body.total).toBe(
    0,
  );
  await page.getByRole('button', { name: 'Listen to Clarinet' }).click();
  await expect(main.getByRole('button', { name: 'Pause' })).toHaveCount(1);
  await main.getByRole('button', { name: 'Pause' }).click();
  await page.getByRole('checkbox', { name: 'All tracks' }).click();
  await page.getByRole('checkbox', { name: 'Take Clarinet' }).click();
  await page.getByRole('checkbox', { name: 'Take Viola' }).click();
  await page.getByRole('checkbox', { name: 'programs and banks' }).click();
  await page.getByRole('radio', { name: /From a bar on/ }).click();
  await page.getByRole('spinbutton', { name: 'Bar', exact: true }).fill('17');
  const account = page.getByRole('region', { name: 'What would come of it' });
  await expect(account).toContainText('2 tracks of “The Lantern Ferry.mid” at bar 17');
  await expect(account).toContainText('Left out, as was asked: 2 programs.');
  await expectAccessible(page);
  await page.getByRole('spinbutton', { name: 'Bar', exact: true }).press('Enter');
  await expect(row(page, 'Clarinet')).toBeVisible();
  const after = await api.song(id);
  const held = (await api.send<{ parts: SongView[] }>('GET', `/api/originals/${hashOf(ferry)}`))
    .body;
  for (const name of ['Clarinet', 'Viola']) {
    const [is, was] = [after, held.parts[0]!].map((s) => s.tracks.find((t) => t.name === name)!);
    expect([is!.notes, is!.programs]).toEqual([was!.notes, []]);
    // Both are at 480 ticks a quarter; sixteen bars of 4/4 are 30,720 (hand-worked).
    expect(is!.firstNoteTick).toBe(was!.firstNoteTick! + 30_720);
  }
  const busy = before.tracks.flatMap((t) => t.channels);
  expect(busy).not.toContain(after.tracks.find((t) => t.name === 'Clarinet')!.channel);
  await page.keyboard.press('Control+z');
  await expect(row(page, 'Clarinet')).toHaveCount(0);
  expect((await api.song(id)).tracks.map((t) => t.sha256)).toEqual(
    before.tracks.map((t) => t.sha256),
  );
});

const hashOf = (name: string): string => createHash('sha256').update(demo(name)).digest('hex');

test('the same part comes in by the intake, by paste and by the API with the very same events', async ({
  page,
  api,
}) => {
  const source = await api.bring(ferry, demo(ferry));
  const clarinet = (await api.song(source.id)).tracks.find((t) => t.name === 'Clarinet')!;
  const hashes: string[] = [];
  const open = async (): Promise<string> => {
    const { id } = await api.bring('groove.mid', demo('market groove.mid'));
    return id;
  };
  const arrived = async (id: string): Promise<void> => {
    await expect(row(page, 'Clarinet')).toBeVisible();
    hashes.push((await api.song(id)).tracks.find((t) => t.name === 'Clarinet')!.sha256);
  };
  const atBar5 = async (): Promise<void> => {
    await page.getByRole('radio', { name: /From a bar on/ }).click();
    await page.getByRole('spinbutton', { name: 'Bar', exact: true }).fill('5');
    await expect(page.getByRole('region', { name: 'What would come of it' })).toContainText(
      'at bar 5',
    );
    await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  };
  const byIntake = await open();
  await page.goto(`/songs/${byIntake}/in`);
  await page.getByTestId('source-file').setInputFiles(asFile(ferry));
  await page.getByRole('checkbox', { name: 'All tracks' }).click();
  await page.getByRole('checkbox', { name: 'Take Clarinet' }).click();
  await atBar5();
  await arrived(byIntake);

  const byPaste = await open();
  await page.goto(`/songs/${source.id}`);
  await row(page, 'Clarinet').first().click();
  await page.keyboard.press('Control+c');
  await expect(page.getByText('Copied 1 track of The Lantern Ferry')).toBeVisible();
  await page.goto(`/songs/${byPaste}`);
  await expect(page.locator('tr[data-track]').first()).toBeVisible();
  await page.keyboard.press('v');
  await expect(page.getByRole('checkbox', { name: 'Take Clarinet' })).toBeChecked();
  await atBar5();
  await arrived(byPaste);

  const byApi = await open();
  const { revision } = await api.song(byApi);
  await api.step(byApi, revision, 'tracks.bring-in', {
    source: { original: hashOf(ferry) },
    tracks: [clarinet.id],
    at: { bar: 5 },
  });
  hashes.push((await api.song(byApi)).tracks.find((t) => t.name === 'Clarinet')!.sha256);
  expect(new Set(hashes).size).toBe(1);
});

/** Seconds of a tick by the tempos that the API lists: from the last one before it (at 480 ticks a quarter). */
function timeOf({ timing }: SongView, tick: number): number {
  const last = timing.tempos.filter((t) => t.atTick <= tick).at(-1);
  const { atTick, seconds, microsecondsPerQuarter } = last ?? {
    atTick: 0,
    seconds: 0,
    microsecondsPerQuarter: 500_000,
  };
  return seconds + ((tick - atTick) * microsecondsPerQuarter) / 480 / 1e6;
}

test(
  'the map alone comes over a song, and the music stays where it sounds',
  { tag: '@quick' },
  async ({ page, api }) => {
    const { id } = await api.bring('sketch.mid', demo('phone sketch.mid'));
    const before = await api.song(id);
    await page.goto(`/songs/${id}/in`);
    await page.getByTestId('source-file').setInputFiles(asFile(ferry));
    await page.getByRole('checkbox', { name: 'All tracks' }).click();
    await page.getByRole('combobox', { name: 'tempo', exact: true }).press('ArrowDown');
    await choose(page.getByRole('combobox', { name: 'Music here' }), 'keeps its seconds');
    await expect(page.getByRole('region', { name: 'What would come of it' })).toContainText(
      'moved to stay where they sound',
    );
    await page.getByRole('button', { name: 'Bring in', exact: true }).click();
    await expect(page.getByRole('main', { name: 'Bring in' })).toHaveCount(0);
    const after = await api.song(id);
    expect(after.timing.tempoCount).toBe(25);
    expect(after.tracks.length).toBe(before.tracks.length);
    for (const [n, track] of before.tracks.entries())
      if (track.lastNoteTick !== undefined)
        expect(
          Math.abs(
            timeOf(after, after.tracks[n]!.lastNoteTick!) - timeOf(before, track.lastNoteTick),
          ),
        ).toBeLessThan(0.002);
  },
);

test('choices are kept under a name, taken by one press, and no other song has them by itself', async ({
  page,
  api,
}) => {
  const [first, second] = await Promise.all([
    api.bring('sketch.mid', demo('phone sketch.mid')),
    api.bring('groove.mid', demo('market groove.mid')),
  ]);
  const open = async (id: string): Promise<void> => {
    await page.goto(`/songs/${id}/in`);
    await page.getByTestId('source-file').setInputFiles(asFile(ferry));
  };
  const programs = page.getByRole('checkbox', { name: 'programs and banks' });
  await open(first.id);
  await expect(page.getByRole('group', { name: 'Saved choices' })).toHaveCount(0);
  await programs.click();
  await page.getByRole('button', { name: 'Save these choices …' }).click();
  await page.getByRole('textbox', { name: 'Name of these choices' }).fill('No programs');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(page.getByRole('main', { name: 'Bring in' })).toHaveCount(0);
  await open(second.id);
  await expect(programs).toBeChecked();
  const kept = page.getByRole('button', { name: 'No programs', exact: true });
  await expect(kept).toHaveAttribute('aria-pressed', 'false');
  await kept.click();
  await expect(programs).not.toBeChecked();
  await expect(kept).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Delete No programs' }).click();
  await expect(kept).toHaveCount(0);
  await page.getByText('Undo', { exact: true }).click();
  await expect(kept).toBeVisible();
});

test('a zip of files comes in one behind the other, in one step', async ({ page, api }) => {
  const begun = await api.send<Uploaded>('POST', '/api/songs', { title: 'Takes', bars: 4 });
  const { id } = begun.body.songs[0]!;
  await page.goto(`/songs/${id}`);
  await expect(page.locator('tr[data-track]')).toHaveCount(1);
  const groove = demo('market groove.mid');
  const zip = zipOf(
    Array.from({ length: 5 }, (_, n) => ({ name: `take ${n + 1}.mid`, bytes: groove })),
  );
  await drop(page, { name: 'takes.zip', bytes: zip });
  const files = page.getByRole('navigation', { name: 'Files' });
  await expect(files.getByRole('button')).toHaveCount(5);
  await page.getByRole('radio', { name: 'One behind the other' }).click();
  await expect(page.getByRole('region', { name: 'What would come of it' })).toContainText(
    '5 steps',
  );
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(page.locator('tr[data-track]')).toHaveCount(6);
  const song = await api.song(id);
  expect(song.steps).toBe(1);
  const begins = song.tracks.slice(1).map((t) => t.firstNoteTick!);
  expect([...begins].sort((a, b) => a - b)).toEqual(begins);
  expect(new Set(begins).size).toBe(5);
  await page.keyboard.press('Control+z');
  await expect(page.locator('tr[data-track]')).toHaveCount(1);
});

test('a song begun with nothing takes its places from a list, and another reader reads them', async ({
  page,
  api,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: /Begin with nothing/ }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Cue 7');
  await dialog.getByLabel('BPM').fill('90');
  await dialog.getByLabel('Bars').fill('0');
  await dialog.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(dialog.getByRole('alert')).toContainText('One bar or more');
  await dialog.getByLabel('Bars').fill('12');
  await expectAccessible(page);
  await page.getByTestId('begin-list').setInputFiles({
    name: 'places.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('kind,position,value\nmarker,3.1.0,Door\nmarker,5.1.0,Rain\n'),
  });
  await dialog.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByRole('region', { name: 'List' })).toContainText('2 markers');
  await page.getByRole('button', { name: 'Bring them in' }).click();
  await expect(page.getByText('Rain').first()).toBeVisible();
  const id = /songs\/([^/]+)/.exec(page.url())![1]!;
  const { bytes } = await api.handOff(id, 1);
  const [map] = readIndependently(bytes).tracks;
  // Bars 3 and 5 of 4/4 at 480 ticks a quarter, and twelve bars in all (hand-worked).
  expect(map!.filter((line) => / ff06 /.test(line)).map((line) => line.split(' ')[0])).toEqual([
    '3840',
    '7680',
  ]);
  expect(map!.at(-1)).toMatch(/^23040 ff2f/);
});

test('files with nothing usable say so, and leave the song as it is', async ({ page, api }) => {
  const { id } = await api.bring('sketch.mid', demo('phone sketch.mid'));
  await page.goto(`/songs/${id}`);
  await expect(page.locator('tr[data-track]').first()).toBeVisible();
  await drop(page, { name: 'notes.txt', bytes: new TextEncoder().encode('no music') });
  await expect(page.getByText('notes.txt: This is no MIDI file')).toBeVisible();
  const begun = await api.send<Uploaded>('POST', '/api/songs', { title: 'Bare', bars: 4 });
  const bare = await api.bytes(`/api/songs/${begun.body.songs[0]!.id}/original`);
  await drop(page, { name: 'bare.mid', bytes: bare });
  const main = page.getByRole('main', { name: 'Bring in' });
  await expect(main).toContainText('No track of it has anything to give.');
  await expect(main).toContainText('Nothing is chosen to be taken.');
  await expect(page.getByRole('button', { name: 'Bring in', exact: true })).toBeDisabled();
  await page.goto(`/songs/${id}/in?from=file:${'0'.repeat(64)}:1&name=gone.mid`);
  await expect(page.getByRole('main', { name: 'Bring in' })).toContainText(
    'There is no file of that hash',
  );
});
