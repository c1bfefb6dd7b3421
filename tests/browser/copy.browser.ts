import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent } from '#core/smf/events.ts';
import { encodeText } from '#core/smf/text.ts';
import { writeSmf } from '#core/smf/write.ts';
import type { Api } from '../support/api.ts';
import { readIndependently } from '../support/independent.ts';
import { expect, row, test } from './fixture.ts';

/** Four notes a bar apart at 96 PPQ, the volume of each bar before them. */
function fourBars(name: string): Uint8Array {
  const played = [60, 62, 64, 65].flatMap((key, bar) => [
    channelEvent(bar * 384, 0xb0, 7, 90 + bar),
    channelEvent(bar * 384 + 48, 0x90, key, 80),
    channelEvent(bar * 384 + 144, 0x80, key, 64),
  ]);
  return writeSmf({
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    tracks: [
      { events: eventsFrom([metaEvent(1536, meta.endOfTrack)]) },
      {
        events: eventsFrom([
          metaEvent(0, meta.trackName, encodeText(name)),
          ...played,
          metaEvent(1536, meta.endOfTrack),
        ]),
      },
    ],
    alienChunks: [],
  });
}

/** Ticks and keys at which notes of the last track begin, and its volumes, as an independent reader finds them. */
async function lastTrack(api: Api, id: string): Promise<{ notes: string[]; volumes: string[] }> {
  const { bytes } = await api.handOff(id);
  const lines = readIndependently(bytes).tracks.at(-1)!;
  return {
    notes: lines.filter((l) => / 9\w/.test(l) && !l.endsWith('00')),
    volumes: lines.filter((l) => / b\w07/.test(l)),
  };
}

test('notes are copied on the plane and put at another bar of their own track, by keys', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('oboe.mid', fourBars('Oboe'));
  await page.goto(`/songs/${id}/notes`);
  const plane = page.getByRole('application');
  await plane.focus();
  await page.keyboard.press('.');
  await expect(page.getByText(/velocity 80/)).toBeVisible();
  await page.keyboard.press('Control+c');
  await expect(page.getByText('Copied 1 note of oboe')).toBeVisible();
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  await strip.focus();
  for (let n = 0; n < 3; n++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('v');
  await expect(page.getByText(/Brought in parts onto Oboe .* at bar 4/)).toBeVisible();
  const { notes, volumes } = await lastTrack(api, id);
  // Bar 4 begins at tick 1,152; the note stood 48 ticks into its bar.
  expect(notes).toContain('1200 903c50');
  expect([notes.length, volumes.length]).toEqual([5, 4]);
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone/)).toBeVisible();
  expect((await lastTrack(api, id)).notes).toHaveLength(4);
});

test('events are copied in the list and become a track of another song', async ({ page, api }) => {
  const from = await api.bring('oboe.mid', fourBars('Oboe'));
  const to = await api.bring('horn.mid', fourBars('Horn'));
  await page.goto(`/songs/${from.id}/events`);
  const list = page.getByRole('listbox', { name: 'Events' });
  await list
    .getByRole('option', { name: /Volume/ })
    .first()
    .click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+c');
  await expect(page.getByText('Copied 2 events of oboe')).toBeVisible();
  await page.goto(`/songs/${to.id}`);
  await expect(row(page, 'Horn')).toBeVisible();
  await page.keyboard.press('v');
  await expect(row(page, 'Oboe')).toBeVisible();
  const { notes, volumes } = await lastTrack(api, to.id);
  expect([notes.length, volumes.length]).toEqual([1, 1]);
});

test(
  'the scope is copied in one song and brought into another by keys alone',
  { tag: '@quick' },
  async ({ page, api }) => {
    const from = await api.bring('oboe.mid', fourBars('Oboe'));
    const to = await api.bring('horn.mid', fourBars('Horn'));
    await page.goto(`/songs/${from.id}`);
    await page.locator('tr[data-track]').first().focus();
    await page.keyboard.press('ArrowDown');
    await expect(row(page, 'Oboe')).toBeFocused();
    await page.keyboard.press(' ');
    await page.getByRole('slider', { name: 'Place in the bars' }).focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Control+c');
    await expect(page.getByText(/Copied bars \d to \d of 1 track of oboe/)).toBeVisible();
    await page.goto(`/songs/${to.id}`);
    await expect(row(page, 'Horn')).toBeVisible();
    await page.keyboard.press('v');
    await expect(page.getByRole('checkbox', { name: 'only some of its bars' })).toBeChecked();
    const first = Number(await page.getByRole('spinbutton', { name: 'From its bar' }).inputValue());
    await expect(page.getByRole('region', { name: 'What would come of it' })).toContainText(
      'Brought in Oboe of “oboe”, its bars',
    );
    await page.keyboard.press('Enter');
    await expect(row(page, 'Oboe')).toBeVisible();
    // What came in is selected and has the focus.
    await expect(row(page, 'Oboe')).toBeFocused();
    const { notes } = await lastTrack(api, to.id);
    expect(notes.map((l) => Number(l.split(' ')[0]))).toEqual(
      [first, first + 1].map((bar) => (bar - 1) * 384 + 48),
    );
  },
);
