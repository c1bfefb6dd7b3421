import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import { writeSmf } from '#core/smf/write.ts';
import type { GuessesView } from '#contracts/guesses.ts';
import { readIndependently } from '../support/independent.ts';
import { sounds } from '../../tools/setup.mjs';
import { brightnessOf, ear } from './ear.ts';
import { demo, downloaded, expect, expectAccessible, row, test } from './fixture.ts';
import { gate } from './settled.ts';

const note = (tick: number, length: number, key: number, channel: number): EventValue[] => [
  channelEvent(tick, 0x90 | channel, key, 90),
  channelEvent(tick + length, 0x80 | channel, key, 64),
];

/** Parts without names, all with stale programs: drums on channel 4, a bass, chords. */
function nameless(): Uint8Array {
  const kit = Array.from({ length: 32 }, (_, n) => [
    ...note(n * 48, 12, 42, 3),
    ...(n % 4 === 0 ? note(n * 48, 12, 36, 3) : []),
    ...(n % 4 === 2 ? note(n * 48, 12, 38, 3) : []),
  ]).flat();
  const bass = [33, 33, 40, 33, 31, 31, 38, 43].flatMap((key, n) =>
    note(n * 192, n % 2 ? 90 : 180, key, 1),
  );
  const chords = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((n) =>
    [60, 64, 67].flatMap((key) => note(n * 192, 180, key, 2)),
  );
  const part = (
    channel: number,
    events: EventValue[],
  ): { events: ReturnType<typeof eventsFrom> } => ({
    events: eventsFrom([
      channelEvent(0, 0xc0 | channel, 120),
      ...events,
      channelEvent(800, 0xc0 | channel, 3),
    ]),
  });
  return writeSmf({
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    tracks: [
      { events: eventsFrom([metaEvent(1536, meta.endOfTrack)]) },
      part(3, kit),
      part(1, bass),
      part(2, chords),
    ],
    alienChunks: [],
  });
}

test('nameless parts get what plays them from guesses by number keys, and an independent reader finds that and none of the stale programs', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('take.mid', nameless());
  const { body } = await api.send<GuessesView>('GET', `/api/songs/${id}/guesses`);
  expect(body.tracks.map((t) => t.role)).toEqual([null, 'drums', 'bass', expect.any(String)]);
  await page.goto(`/songs/${id}`);
  const rows = page.locator('tr[data-track]');
  await rows.nth(1).focus();
  for (const n of [1, 2]) {
    await expect(rows.nth(n)).toHaveAttribute('data-track', body.tracks[n]!.id);
    if (n > 1) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('i');
    await expect(page.getByRole('dialog')).toContainText('What may play it, by its notes');
    if (n === 1) await expectAccessible(page);
    await page.keyboard.press('1');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    // The focus is where it was.
    await expect(rows.nth(n)).toBeFocused();
  }
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('i');
  await page.getByRole('combobox', { name: 'Instrument' }).fill('vib');
  await expect(page.getByRole('region', { name: 'What would come of it' })).toContainText(
    'Vibraphone',
  );
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  const { bytes } = await api.handOff(id);
  const tracks = readIndependently(bytes).tracks;
  const programs = tracks.map((lines) => lines.filter((l) => /^\d+ c/.test(l)));
  expect(programs.slice(1)).toEqual([['0 c900'], ['0 c121'], ['0 c20b']]);
  for (const lines of tracks.slice(1))
    expect(lines.filter((l) => / [89bc]/.test(l))[0]).toMatch(/^0 c/);
});

test(
  'all parts get their best guess at once, and their names, with one way back',
  { tag: '@quick' },
  async ({ page, api }) => {
    const { id } = await api.bring('take.mid', nameless());
    await page.goto(`/songs/${id}`);
    await page.getByRole('button', { name: 'What may play the parts …' }).click();
    const guesses = page.getByRole('table', { name: 'Guesses' });
    await expect(guesses.getByRole('row')).toHaveCount(4);
    await expectAccessible(page);
    await page.getByRole('slider', { name: 'Surer than' }).press('Home');
    await page.getByRole('button', { name: 'Give 3 parts what is ticked' }).click();
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await expect(row(page, 'Standard kit')).toBeVisible();
    const after = await api.song(id);
    expect(after.tracks.slice(1).every((t) => t.name !== '')).toBe(true);
    expect(after.tracks[1]!.channel).toBe(10);
    await page.keyboard.press('Control+z');
    await expect(row(page, 'Standard kit')).toHaveCount(0);
  },
);

test('an instrument is changed while the song plays, and heard', async ({ page, api }) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}`);
  await row(page, 'Double Bass').first().click();
  await page.keyboard.press('p');
  await expect(page.getByTestId('heard')).toBeVisible();
  await page.getByRole('button', { name: /What plays Double Bass/ }).click();
  await page.getByRole('combobox', { name: 'Instrument' }).fill('tub');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('region', { name: 'What would come of it' })).toContainText(
    'Gave Double Bass',
  );
  // It goes on playing, and Esc leaves everything as it was.
  const heard = async (): Promise<string> => (await page.getByTestId('heard').textContent()) ?? '';
  const before = await heard();
  await expect.poll(heard).not.toBe(before);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(row(page, 'Double Bass').first()).toBeFocused();
  expect((await api.song(id)).revision).toBe(0);
  await page.keyboard.press('p');
});

/** One part, a flute that repeats one key for two minutes. */
function oneLine(): Uint8Array {
  const notes = Array.from({ length: 120 }, (_, n) => note(n * 192, 180, 69, 0)).flat();
  return writeSmf({
    format: 0,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    tracks: [{ events: eventsFrom([channelEvent(0, 0xc0, 73), ...notes]) }],
    alienChunks: [],
  });
}

test('what is chosen is heard at once, brighter or darker as it is, and as before when it is left', async ({
  page,
  api,
}) => {
  test.skip(!sounds(), 'no sounds are installed');
  await page.addInitScript(ear);
  const { id } = await api.bring('line.mid', oneLine());
  await page.goto(`/songs/${id}`);
  await page.locator('tr[data-track]').first().focus();
  await page.keyboard.press('p');
  const flute = { hertz: 0 };
  await expect
    .poll(async () => (flute.hertz = await brightnessOf(page)), { timeout: 90_000 })
    .toBeGreaterThan(100);
  await page.locator('tr[data-track]').first().focus();
  await page.keyboard.press('i');
  await page.getByRole('combobox', { name: 'Instrument' }).fill('harpsi');
  await expect(page.getByRole('region', { name: 'What would come of it' })).toContainText(
    'Harpsichord',
  );
  // A plucked string has many more partials than a flute.
  await expect
    .poll(() => brightnessOf(page), { timeout: 90_000 })
    .toBeGreaterThan(flute.hertz * 1.5);
  await page.keyboard.press('Escape');
  await expect.poll(() => brightnessOf(page), { timeout: 90_000 }).toBeLessThan(flute.hertz * 1.25);
  expect((await api.song(id)).revision).toBe(0);
});

test('an instrument of one’s own is made, given to a part by keys, and kept by the song when it is removed', async ({
  page,
  api,
}) => {
  await page.goto('/instruments?open=along-bass-clarinet');
  await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue('Bass clarinet');
  await page.getByRole('textbox', { name: 'Name' }).fill('Reed of mine');
  await page.getByRole('textbox', { name: 'Highest key' }).fill('what');
  await expect(page.getByText('two keys by their names')).toBeVisible();
  await page.getByRole('textbox', { name: 'Highest key' }).fill('F6');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Save as your own' }).click();
  await expect(page.getByRole('button', { name: 'Remove' })).toBeVisible();
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  // The list comes after what is typed.
  const typed = gate();
  await page.route('**/api/instruments', async (route) => {
    await typed.passed;
    await route.continue();
  });
  await page.goto(`/songs/${id}`);
  await row(page, 'Bass Clarinet').first().focus();
  await page.keyboard.press('i');
  await page.getByRole('combobox', { name: 'Instrument' }).fill('reed of');
  typed.open();
  await expect(page.getByRole('region', { name: 'What would come of it' })).toContainText(
    'Reed of mine',
  );
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(row(page, 'Reed of mine')).toBeFocused();
  await page.goto('/instruments');
  await page.getByRole('button', { name: /Reed of mine/ }).click();
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText('Songs that play it keep their copy.')).toBeVisible();
  await page.goto(`/songs/${id}`);
  await expect(row(page, 'Reed of mine')).toBeVisible();
});

test('a file of instruments is seen before it is taken, and written again with what is lost said before', async ({
  page,
}) => {
  const patches = ['Low reed', 'High reed']
    .map((name, n) => `<Patch Number="A${n}" Name="${name}" ProgramChange="${n}"/>`)
    .join('');
  const document = `<MIDINameDocument><MasterDeviceNames><Manufacturer>Lumen</Manufacturer><Model>Reeds</Model><ChannelNameSet Name="s"><PatchBank Name="b"><PatchNameList>${patches}</PatchNameList></PatchBank></ChannelNameSet></MasterDeviceNames></MIDINameDocument>`;
  const asFile = (text: string) => ({
    name: 'reeds.midnam',
    mimeType: 'application/xml',
    buffer: Buffer.from(text),
  });
  await page.goto('/instruments');
  await page.getByTestId('instrument-file').setInputFiles(asFile('<score/>'));
  await expect(page.getByText('The file holds no instruments')).toBeVisible();
  await page.getByTestId('instrument-file').setInputFiles(asFile(document));
  await expect(page.getByRole('heading', { name: 'reeds.midnam' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take 2 instruments' }).click();
  await expect(page.getByRole('button', { name: /Low reed/ })).toBeVisible();
  await page.getByRole('button', { name: 'Write …' }).click();
  await expect(page.getByText('The program it is heard with of 2 instruments.')).toBeVisible();
  const { name, bytes } = await downloaded(page, () =>
    page.getByRole('link', { name: 'Save 2 as MIDNAM' }).click(),
  );
  expect(name).toBe('instruments.midnam');
  expect(Buffer.from(bytes).toString()).toContain('<Patch Number="A1" Name="High reed"');
});
