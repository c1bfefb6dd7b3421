import { parseMidi } from 'midi-file';
import type { Page } from '@playwright/test';
import { channelEvent, meta, metaEvent } from '#core/smf/events.ts';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { encodeText } from '#core/smf/text.ts';
import { writeSmf } from '#core/smf/write.ts';
import { ear, loudnessOf } from './ear.ts';
import { demo, expect, expectAccessible, row, test } from './fixture.ts';
import { gate } from './settled.ts';

const ppq = 480;

/** A map and a part of four-part chords, one a bar, from the highest note down. */
function chordsFile(chords: readonly (readonly number[])[]): Uint8Array {
  const named = (name: string) => metaEvent(0, meta.trackName, encodeText(name));
  const bar = ppq * 4;
  const notes = chords.flatMap((keys, n) =>
    keys.flatMap((key) => [
      channelEvent(n * bar, 0x90, key, 90),
      channelEvent((n + 1) * bar, 0x80, key, 64),
    ]),
  );
  return writeSmf({
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: ppq },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    tracks: [
      { events: eventsFrom([named('Map')]) },
      { events: eventsFrom([named('Keys'), channelEvent(0, 0xc0, 0), ...notes]) },
    ],
  });
}

/** By npm midi-file: the tracks by name, each with its programs and its notes as key@quarter, and the song's texts. */
function readBack(bytes: Uint8Array) {
  const { header, tracks } = parseMidi(bytes);
  return tracks.map((track) => {
    let tick = 0;
    const at = track.map((event) => ({ tick: (tick += event.deltaTime), event }));
    return {
      name: at.map(({ event }) => (event.type === 'trackName' ? event.text : '')).join(''),
      programs: at.flatMap(({ event }) =>
        event.type === 'programChange' ? [event.programNumber] : [],
      ),
      channels: [
        ...new Set(at.flatMap(({ event }) => (event.type === 'noteOn' ? [event.channel] : []))),
      ],
      notes: at.flatMap(({ tick: t, event }) =>
        event.type === 'noteOn' && event.velocity > 0
          ? [`${event.noteNumber}@${t / header.ticksPerBeat!}`]
          : [],
      ),
      texts: at.flatMap(({ tick: t, event }) =>
        event.type === 'text' ? [`${event.text}@${t / header.ticksPerBeat!}`] : [],
      ),
    };
  });
}

const done = (page: Page, n: number) =>
  expect(page.getByRole('link', { name: 'History' })).toContainText(
    n === 1 ? '1 step' : `${n} steps`,
  );
const ledger = (page: Page) => page.getByRole('listbox', { name: 'Bars with their chords' });
const bar = (page: Page, n: number) => page.locator(`#bar-${n}`);
/** Goes to what has this name and presses Enter. */
async function enter(page: Page, name: string | RegExp, exact = true): Promise<void> {
  await page.getByRole('button', { name, exact }).focus();
  await page.keyboard.press('Enter');
}

test(
  'a part is doubled an octave lower on a new track in one act, by keys alone; undo takes it back',
  { tag: '@quick' },
  async ({ page, api }) => {
    const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
    const was = readBack((await api.handOff(id)).bytes);
    await page.goto(`/songs/${id}`);
    await row(page, 'Clarinet').first().focus();
    await page.keyboard.press('Space');
    await page.goto(`/songs/${id}/harmony`);
    await page.goBack();
    await row(page, 'Clarinet').first().click();
    await page.getByRole('link', { name: 'Harmony' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByText('On Clarinet, all bars.')).toBeVisible();
    await enter(page, 'Double a part …');
    await expect(page.getByText('On Clarinet', { exact: true })).toBeVisible();
    await enter(page, 'Do it');
    await done(page, 1);
    await expect(
      page.getByText(/Doubled \d+ notes on Clarinet, octave down/).first(),
    ).toBeVisible();
    const now = readBack((await api.handOff(id)).bytes);
    const at = now.findIndex((t) => t.name === 'Clarinet, octave down');
    const clarinet = was.find((t) => t.name === 'Clarinet')!;
    expect(now[at - 1]!.name).toBe('Clarinet');
    expect(now[at]!.notes).toEqual(
      clarinet.notes.map((n) => n.replace(/^\d+/, (key) => String(Number(key) - 12))),
    );
    expect(now[at]!.programs).toEqual(clarinet.programs);
    // No other part plays on its channel.
    expect(was.flatMap((t) => t.channels)).not.toContain(now[at]!.channels[0]);
    expect(now.filter((_, n) => n !== at)).toEqual(was);
    await page.keyboard.press('Control+z');
    await expect(page.getByText(/^Undone: Doubled/)).toBeVisible();
    expect(readBack((await api.handOff(id)).bytes)).toEqual(was);
  },
);

test('a four-part chord track is shared out to three players, by keys; what nobody plays stays', async ({
  page,
  api,
}) => {
  const chords = [
    [72, 67, 64, 60],
    [71, 67, 65, 62],
    [72, 69, 65, 60],
  ];
  const { id } = await api.bring('chords.mid', chordsFile(chords));
  await page.goto(`/songs/${id}/harmony`);
  await expect(bar(page, 1)).toContainText('C');
  await expect(bar(page, 2)).toContainText('G7');
  await expect(bar(page, 3)).toContainText('F');
  await enter(page, 'Share chords out among players …');
  for (const [n, name] of ['Flute', 'Oboe', 'Clarinet'].entries()) {
    await page.getByRole('textbox', { name: `Name of player ${n + 1}` }).focus();
    await page.keyboard.type(name);
  }
  await expect(page.getByText(/3 notes that nobody can play stay in it/)).toBeVisible();
  await enter(page, 'Do it');
  await done(page, 1);
  const now = readBack((await api.handOff(id)).bytes);
  expect(now.map((t) => t.name)).toEqual(['Map', 'Keys', 'Flute', 'Oboe', 'Clarinet']);
  [3, 0, 1, 2].forEach((voice, track) =>
    expect(now[track + 1]!.notes).toEqual(chords.map((keys, n) => `${keys[voice]}@${n * 4}`)),
  );
});

test('chords are typed over eight bars, copied, moved; a part is fitted to them, heard before and after, all by keys', async ({
  page,
  api,
  context,
}) => {
  test.setTimeout(90_000);
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const { id } = await api.bring(
    'chords.mid',
    chordsFile(Array.from({ length: 8 }, () => [60, 64, 67])),
  );
  await page.goto(`/songs/${id}/harmony`);
  await expectAccessible(page);
  await ledger(page).focus();
  // Quicker than the way to the server: four bars, one after the other.
  const typedAll = gate();
  await page.route('**/steps', async (route) => {
    await typedAll.passed;
    await route.continue();
  });
  for (const typed of ['Am', 'F', 'C/E', 'G7 E7/G#']) {
    await page.keyboard.type(typed);
    await page.keyboard.press('Enter');
  }
  typedAll.open();
  await done(page, 4);
  await expect(bar(page, 4)).toContainText('G7 E7/G♯');
  // What is no chord stays to be mended, with a word, and nothing is written.
  await page.keyboard.type('CHx');
  await page.keyboard.press('Enter');
  await expect(page.getByText('“CHx” is no chord')).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Chords of bar 5' })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(ledger(page)).toBeFocused();
  // The four bars once more behind themselves.
  await page.keyboard.press('Home');
  for (let n = 0; n < 3; n++) await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+c');
  await expect(page.getByText('Copied the chords of bars 1 to 4')).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Control+v');
  await done(page, 5);
  await expect(bar(page, 7)).toContainText('C/E');
  const line = () => api.handOff(id).then(({ bytes }) => readBack(bytes)[0]!.texts);
  expect(await line()).toEqual(
    [0, 16].flatMap((q) => [
      `chord: Am@${q}`,
      `chord: F@${q + 4}`,
      `chord: C/E@${q + 8}`,
      `chord: G7@${q + 12}`,
      `chord: E7/G#@${q + 14}`,
    ]),
  );
  await enter(page, 'Fit to the chord line …');
  await expect(page.getByRole('button', { name: 'Do it' })).toBeEnabled();
  // Before and after by a key.
  await page.getByRole('button', { name: 'Hear it' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /Hear it|as it is/i }).first()).toBeVisible();
  await page.keyboard.press('b');
  await page.keyboard.press('x');
  await enter(page, 'Do it');
  await done(page, 6);
  const tones: Record<string, readonly number[]> = {
    Am: [9, 0, 4],
    F: [5, 9, 0],
    'C/E': [0, 4, 7],
    G7: [7, 11, 2, 5],
  };
  const keys = readBack((await api.handOff(id)).bytes)[1]!.notes.map((n) =>
    n.split('@').map(Number),
  );
  expect(keys).toHaveLength(24);
  for (const [key, quarter] of keys) {
    const name = ['Am', 'F', 'C/E', 'G7'][(quarter! / 4) % 4]!;
    expect(tones[name], `${key} in ${name}`).toContain(key! % 12);
  }
  // Dragged to another bar: the one it comes from is empty then, and what was there is gone.
  await bar(page, 1)
    .getByTitle(/^Drag it/)
    .dragTo(bar(page, 2));
  await done(page, 7);
  await expect(bar(page, 2).getByTitle(/^Drag it/)).toHaveText('Am');
  await expect(bar(page, 1).getByTitle(/^Drag it/)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(bar(page, 2).getByTitle(/^Drag it/)).toHaveText('F');
  // Kept here, and sent again, by one press.
  await page.getByRole('checkbox', { name: 'sent', exact: true }).focus();
  await page.keyboard.press('Space');
  await done(page, 7);
  expect(await line()).toEqual([]);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('checkbox', { name: 'sent', exact: true })).toBeChecked();
  await ledger(page).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Delete');
  await done(page, 7);
  await expect(bar(page, 1).getByTitle(/^Drag it/)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(bar(page, 1).getByTitle(/^Drag it/)).toHaveText('Am');
});

test('voicings of a part are gone through by keys with their degrees; the keys of sections are told', async ({
  page,
  api,
}) => {
  await page.addInitScript(ear);
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}/harmony`);
  await expect(bar(page, 1)).toContainText('Mist');
  await expect(bar(page, 1)).toContainText('D minor');
  await expect(page.getByRole('region', { name: 'Keys' })).toContainText('F major');
  await page.getByRole('radio', { name: 'Voicings' }).focus();
  await page.keyboard.press('Space');
  const list = page.getByRole('listbox', { name: 'Voicings' });
  await expect(list.getByRole('option').first()).toContainText('Dm');
  await expect(list.getByRole('option').first()).toContainText('1');
  await expectAccessible(page);
  await list.focus();
  await page.keyboard.press('ArrowDown');
  expect(await loudnessOf(page)).toBeGreaterThan(0.01);
  await expect(list.getByRole('option').nth(1)).toHaveAttribute('aria-selected', 'true');
  // What is chosen in the note view is spelled, too.
  await page.goto(`/songs/${id}/notes`);
  await expect(page.getByRole('application')).toBeVisible();
});
