import { parseMidi } from 'midi-file';
import type { Page } from '@playwright/test';
import { channelEvent, meta, metaEvent } from '#core/smf/events.ts';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { writeSmf } from '#core/smf/write.ts';
import { readIndependently } from '../support/independent.ts';
import { demo, expect, expectAccessible, test } from './fixture.ts';

/**
 * The notes of a file bar by bar, read by npm midi-file: of each track channel, key, velocity and place in the
 * bar. Bars are counted by the meters in the order in which they stand.
 */
function barsOf(bytes: Uint8Array): string[] {
  const { header, tracks } = parseMidi(bytes);
  const quarter = header.ticksPerBeat!;
  const timed = tracks.map((track) => {
    let tick = 0;
    return track.map((event) => ({ tick: (tick += event.deltaTime), event }));
  });
  const all = timed.flat();
  const meters = all
    .flatMap(({ tick, event }) =>
      event.type === 'timeSignature'
        ? [{ tick, ticks: (quarter * 4 * event.numerator) / event.denominator }]
        : [],
    )
    .sort((a, b) => a.tick - b.tick);
  const end = Math.max(...all.map((e) => e.tick));
  const lines: number[] = [];
  for (let at = 0; at < end; at += meters.findLast((m) => m.tick <= at)!.ticks) lines.push(at);
  const notes = lines.map(() => [] as string[]);
  timed.forEach((track, n) => {
    for (const { tick, event } of track) {
      if (event.type !== 'noteOn' || event.velocity === 0) continue;
      const bar = lines.findLastIndex((line) => line <= tick);
      notes[bar]!.push(
        `${n} ${event.channel} ${event.noteNumber} ${event.velocity} ${tick - lines[bar]!}`,
      );
    }
  });
  return notes.map((bar) => bar.sort().join(', '));
}

const line = (page: Page, name: string) =>
  page.getByRole('list', { name: 'Spans in their order' }).locator('li', { hasText: name });
const done = (page: Page, n: number) =>
  expect(page.getByRole('link', { name: 'History' })).toContainText(
    n === 1 ? '1 step' : `${n} steps`,
  );

test('bars of an opening are cut out, the refrain repeated, a section moved before another: the file agrees bar by bar', async ({
  page,
  api,
}) => {
  test.setTimeout(120_000);
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  const was = barsOf((await api.handOff(id)).bytes);
  expect(was).toHaveLength(120);
  await page.goto(`/songs/${id}/arrange`);
  await expect(line(page, 'Squall')).toContainText('bars 87–100');
  await expectAccessible(page);
  // By the pointer: the second four bars of Mist go, and the gap is closed.
  await page.getByRole('button', { name: 'Cut bars out …' }).click();
  await page.getByRole('spinbutton', { name: 'Last bar' }).fill('8');
  await page.getByRole('spinbutton', { name: 'First bar' }).fill('5');
  await page.getByRole('button', { name: 'Do it' }).click();
  await done(page, 1);
  await expect(line(page, 'Squall')).toContainText('bars 83–96');
  await expect(line(page, 'Mist')).toContainText('10 bars');
  // Squall before “Ferryman, row”, dragged; the refrain once more, by its button.
  const grip = page.getByLabel('Drag Squall');
  const [from, to] = [
    (await grip.boundingBox())!,
    (await line(page, 'Ferryman, row').boundingBox())!,
  ];
  await page.mouse.move(from.x + 5, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + 5, from.y - 40, { steps: 4 });
  await page.mouse.move(from.x + 5, to.y + 4, { steps: 10 });
  await page.mouse.up();
  await expect(page.getByRole('listitem').filter({ hasText: 'Squall' }).first()).toContainText('2');
  await page.getByRole('button', { name: 'Repeat Glow, lanterns' }).click();
  await expect(page.getByText('It would last 124 bars')).toBeVisible();
  await expect(page.getByText(/Bar 11: 4\/4 → 7\/8/)).toBeVisible();
  await page.getByRole('button', { name: 'Put it in this order' }).click();
  await done(page, 2);
  await expect(page.getByText('It is in this order already.')).toBeVisible();
  await expect(page.locator('[data-span]')).toHaveCount(8);
  const now = barsOf((await api.handOff(id)).bytes);
  const old = (first: number, last: number) => was.slice(first - 1, last);
  const expected = [
    ...old(1, 4),
    ...old(9, 14),
    ...old(87, 100),
    ...old(15, 30),
    ...old(31, 38),
    ...old(31, 38),
    ...old(39, 86),
    ...old(101, 120),
  ];
  expect(now).toHaveLength(expected.length);
  // What is cut by an edge is struck anew behind it: notes come, none goes.
  let same = 0;
  now.forEach((bar, n) => {
    const notes = new Set(bar.split(', '));
    for (const note of expected[n]!.split(', ')) expect(notes, `bar ${n + 1}`).toContain(note);
    if (bar === expected[n]) same++;
  });
  expect(same).toBeGreaterThan(expected.length - 8);
});

test('the same by keys alone, with what was said and the way back', async ({ page, api }) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}/arrange`);
  await line(page, 'Squall').focus();
  for (let n = 0; n < 4; n++) await page.keyboard.press('Alt+ArrowUp');
  await expect(line(page, 'Squall')).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(line(page, 'Glow, lanterns')).toBeFocused();
  await page.keyboard.press('+');
  await expect(page.locator('[data-span]')).toHaveCount(8);
  // The copy has the focus: it goes again, and what is behind it has the focus then.
  await page.keyboard.press('Delete');
  await expect(page.locator('[data-span]')).toHaveCount(7);
  await expect(line(page, 'Lantern market')).toBeFocused();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('+');
  await expect(page.getByText('It would last 128 bars')).toBeVisible();
  await page.getByRole('button', { name: 'Put it in this order' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Set the running order: 128 bars')).toBeVisible();
  await done(page, 1);
  await expect(line(page, 'Mist')).toBeFocused();
  // The bars of a line become the scope by a key, and are repeated.
  await line(page, 'Mist').focus();
  await page.keyboard.press('=');
  await expect(page.getByRole('button', { name: 'Bars 1 to 14' })).toBeVisible();
  await page.getByRole('button', { name: 'Repeat bars …' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Do it' }).focus();
  await page.keyboard.press('Enter');
  await done(page, 2);
  await expect(page.getByRole('button', { name: 'Repeat bars …' })).toBeFocused();
  await line(page, 'Mist').first().focus();
  await page.keyboard.press('Control+z');
  await done(page, 1);
  await expect(line(page, 'Mist')).toBeFocused();
  await page.keyboard.press('Control+z');
  await expect(line(page, 'Squall')).toContainText('bars 87–100');
  const was = barsOf(demo('The Lantern Ferry.mid'));
  expect(barsOf((await api.handOff(id)).bytes)).toEqual(was);
});

/** Five chords of three notes at 96 PPQ, one a bar, a half note long. */
function fiveChords(): Uint8Array {
  const part = eventsFrom([
    ...Array.from({ length: 5 }, (_, n) =>
      [60, 64, 67].flatMap((key) => [
        channelEvent(n * 384, 0x90, key, 80),
        channelEvent(n * 384 + 192, 0x80, key, 64),
      ]),
    ).flat(),
    metaEvent(5 * 384, meta.endOfTrack),
  ]);
  return writeSmf({
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    tracks: [{ events: eventsFrom([metaEvent(1920, meta.endOfTrack)]) }, { events: part }],
    alienChunks: [],
  });
}

/** Draws a rectangle over all keys of some chords, which selects them. */
async function around(page: Page, first: number, last: number): Promise<void> {
  const box = (await page.getByRole('application').boundingBox())!;
  // Sixteen bars are shown at first; the keys lie in the middle.
  const x = (bar: number): number => box.x + (bar / 16) * box.width;
  await page.mouse.move(x(last - 0.2), box.y + 24);
  await page.mouse.down();
  await page.mouse.move(x(first - 0.5), box.y + box.height / 2, { steps: 4 });
  await page.mouse.move(x(first - 1) - 2, box.y + box.height - 4, { steps: 4 });
  await page.mouse.up();
}

test('chosen notes are a scope: a chord goes, three are halved, and the file has just that', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('chords.mid', fiveChords());
  await page.goto(`/songs/${id}/notes`);
  const plane = page.getByRole('application');
  await expect(plane).toBeVisible();
  const idle = () =>
    expect(page.getByRole('main', { name: 'Note view' })).toHaveAttribute('aria-busy', 'false');
  await around(page, 2, 2);
  await expect(page.getByText('3 notes selected')).toBeVisible();
  await page.keyboard.press('Delete');
  await done(page, 1);
  await idle();
  await around(page, 3, 5);
  await expect(page.getByText('9 notes selected')).toBeVisible();
  await page.getByRole('button', { name: 'Steps …' }).click();
  await page.getByRole('button', { name: 'Change lengths …' }).click();
  await expect(page.getByText('On 9 chosen notes')).toBeVisible();
  await page.getByRole('spinbutton', { name: 'Scale' }).fill('50');
  await page.getByRole('button', { name: 'Do it' }).click();
  await expect(page.getByText(/^Changed the length of 9 notes/)).toBeVisible();
  await done(page, 2);
  const on = (tick: number) => ['3c', '40', '43'].map((key) => `${tick} 90${key}50`);
  const off = (tick: number) => ['3c', '40', '43'].map((key) => `${tick} 80${key}40`);
  expect(readIndependently((await api.handOff(id)).bytes).tracks[1]).toEqual([
    ...on(0),
    ...off(192),
    ...[768, 1152, 1536].flatMap((tick) => [...on(tick), ...off(tick + 96)]),
    '1920 ff2f',
  ]);
});

test('the same by keys alone: chosen notes stay chosen, and R makes their bars the scope', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('sketch.mid', demo('phone sketch.mid'));
  await page.goto(`/songs/${id}/notes`);
  const plane = page.getByRole('application');
  await expect(plane).toBeVisible();
  const idle = () =>
    expect(page.getByRole('main', { name: 'Note view' })).toHaveAttribute('aria-busy', 'false');
  await plane.focus();
  await page.keyboard.press('.');
  await page.keyboard.press('Delete');
  // It came in one track, and was parted by channels: a step of its own.
  await done(page, 2);
  await idle();
  await page.keyboard.press('Control+a');
  await expect(page.getByText(/\d+ notes selected/)).toBeVisible();
  await page.keyboard.press('Enter');
  const change = page.getByRole('button', { name: 'Change lengths …' });
  await expect(page.getByRole('button', { name: 'Transpose …' })).toBeFocused();
  await change.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^On \d+ chosen notes$/)).toBeVisible();
  await page.getByRole('spinbutton', { name: 'Scale' }).fill('50');
  await page.getByRole('button', { name: 'Do it' }).focus();
  await page.keyboard.press('Enter');
  await done(page, 3);
  // The focus is where the step was begun; what was chosen is so still.
  await expect(change).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(plane).toBeFocused();
  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: /^Bars? \d/ })).toBeVisible();
  await expectAccessible(page);
  const song = await api.song(id);
  expect(song.undo).toMatch(/^Changed the length of \d+ notes/);
});

test('events chosen in the list are a scope, and are chosen still when a step has been taken', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('chords.mid', fiveChords());
  await page.goto(`/songs/${id}/events`);
  const options = page.getByRole('listbox', { name: 'Events' }).getByRole('option');
  await options.filter({ hasText: 'Note' }).first().click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('3 selected')).toBeVisible();
  await page.getByRole('button', { name: 'Steps …' }).click();
  await page.getByRole('button', { name: 'Set or scale velocity …' }).click();
  await expect(page.getByText('On 3 chosen events')).toBeVisible();
  await page.getByRole('spinbutton', { name: 'Add' }).fill('7');
  await page.getByRole('button', { name: 'Do it' }).click();
  await done(page, 1);
  await expect(page.getByText('3 selected')).toBeVisible();
  const played = readIndependently((await api.handOff(id)).bytes).tracks[1]!;
  // 80 and 7 is 87, which is 57 in sixteens; the next chord stays as it was.
  expect(played.slice(0, 3)).toEqual(['0 903c57', '0 904057', '0 904357']);
  expect(played).toContain('384 903c50');
});
