import type { Page } from '@playwright/test';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent } from '#core/smf/events.ts';
import { writeSmf } from '#core/smf/write.ts';
import { demo, expect, row, test } from './fixture.ts';
import { frames, settled } from './settled.ts';

/** Sixteen parts of 3,000 notes each: 96,000 events and what sets the parts up. */
function hundredThousand(): Uint8Array {
  const part = (n: number) => ({
    events: eventsFrom([
      channelEvent(0, 0xc0 | n, n * 8),
      ...Array.from({ length: 3000 }, (_, i) => [
        channelEvent(i * 48, 0x90 | n, 40 + ((i * 7 + n) % 40), 60 + (i % 50)),
        channelEvent(i * 48 + 40, 0x80 | n, 40 + ((i * 7 + n) % 40), 64),
      ]).flat(),
      metaEvent(3000 * 48, meta.endOfTrack),
    ]),
  });
  return writeSmf({
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    tracks: Array.from({ length: 16 }, (_, n) => part(n)),
    alienChunks: [],
  });
}

/** Milliseconds from a key to the frame in which something is shown, measured in the page. */
const shownAfter = (page: Page, key: string, what: string): Promise<number> =>
  page.evaluate(
    ([pressed, selector]) =>
      new Promise<number>((resolve) => {
        const began = performance.now();
        const look = (): void => {
          const passed = performance.now() - began;
          if (document.querySelector(selector!) || passed > 20_000) resolve(passed);
          else requestAnimationFrame(look);
        };
        const target = document.activeElement ?? document.body;
        target.dispatchEvent(
          new KeyboardEvent('keydown', {
            key: pressed!.replace('Ctrl+', ''),
            ctrlKey: pressed!.startsWith('Ctrl+'),
            bubbles: true,
          }),
        );
        requestAnimationFrame(look);
      }),
    [key, what],
  );

interface Shift {
  readonly value: number;
  readonly startTime: number;
}

/** Notes every shift of the layout, whoever caused it. */
const watchShifts = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    const seen = globalThis as unknown as { shifts: Shift[] };
    seen.shifts = [];
    new PerformanceObserver((list) => {
      for (const { value, startTime } of list.getEntries() as unknown as Shift[])
        seen.shifts.push({ value, startTime });
    }).observe({ type: 'layout-shift', buffered: true });
  });

/** What the layout was shifted by while nothing that a key asked for was being shown. */
async function shiftedBeside(page: Page, shown: readonly [number, number][]): Promise<number> {
  const shifts = await page.evaluate(() => (globalThis as unknown as { shifts: Shift[] }).shifts);
  return shifts
    .filter((s) => !shown.some(([from, to]) => s.startTime >= from && s.startTime <= to))
    .reduce((sum, s) => sum + s.value, 0);
}

const now = (page: Page): Promise<number> => page.evaluate(() => performance.now());

const views = [
  ['3', 'main[aria-label="Note view"] [role=application]', 'Notes'],
  ['4', 'main[aria-label=Lanes]', 'Lanes'],
  ['5', '[role=listbox][aria-label=Events] [role=option]', 'Event list'],
  ['6', 'main[aria-label=Timing]', 'Timing'],
  ['8', 'main[aria-label=Arrange]', 'Arrange'],
  ['0', 'main[aria-label="Hand off"]', 'Hand off'],
  ['h', 'main[aria-label=History]', 'History'],
  ['2', 'main[aria-label="Track sheet"] tr[data-track]', 'Look over'],
] as const;

/** Milliseconds until each view, a selected row and the palette are shown, to be compared with another song's. */
async function shownIn(page: Page): Promise<Record<string, number>> {
  const measured: Record<string, number> = {};
  for (const [key, what] of views) {
    await page.keyboard.press(key);
    await page.locator(what).first().waitFor();
    await settled(page);
  }
  for (const [key, what, name] of views) {
    await settled(page);
    measured[name] = await shownAfter(page, key, what);
  }
  await page.locator('tr[data-track]').nth(1).focus();
  measured['a row is selected'] = await shownAfter(page, ' ', 'tr[data-track][aria-selected=true]');
  measured['the palette opens'] = await shownAfter(page, 'Ctrl+k', '[cmdk-input]');
  await page.keyboard.press('Escape');
  return measured;
}

test('a song of a hundred thousand events: views are there at once, keys answer at once, and nothing jumps', async ({
  page,
  api,
}) => {
  await watchShifts(page);
  const { id } = await api.bring('large.mid', hundredThousand());
  await page.goto(`/songs/${id}`);
  await expect(
    row(page, 'track 2').first().or(page.locator('tr[data-track]').nth(1)),
  ).toBeVisible();
  await page.waitForLoadState('networkidle');
  // Everything is fetched and drawn for the first time: what moves once a view is there has come by itself.
  const shown: [number, number][] = [];
  for (const [key, what] of views) {
    const from = await now(page);
    await page.keyboard.press(key);
    await page.locator(what).first().waitFor();
    await frames(page, 2);
    shown.push([from, await now(page)]);
    await settled(page);
  }
  const moved = await shiftedBeside(page, shown);
  const large = await shownIn(page);
  await api
    .bring('small.mid', demo('phone sketch.mid'))
    .then((small) => page.goto(`/songs/${small.id}`));
  await expect(page.locator('tr[data-track]').nth(1)).toBeVisible();
  const small = await shownIn(page);
  // Nothing that arrives by itself moves what is there.
  expect(moved).toBeLessThan(0.001);
  // A small song's views are there in so many frames: those of a hundred thousand events are, too, or in few more.
  for (const name of ['Notes', 'Event list', 'Look over', 'a row is selected', 'the palette opens'])
    expect(large[name]! / Math.max(50, small[name]!), name).toBeLessThan(20);
});
