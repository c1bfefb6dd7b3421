import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import { writeSmf } from '#core/smf/write.ts';
import type { GuessesView } from '#contracts/guesses.ts';
import { readIndependently } from '../support/independent.ts';
import { demo, expect, expectAccessible, row, test } from './fixture.ts';

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

test('all parts get their best guess at once, and their names, with one way back', async ({
  page,
  api,
}) => {
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
});

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
