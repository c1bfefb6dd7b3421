import type { CDPSession, Page } from '@playwright/test';
import { readIndependently } from '../support/independent.ts';
import { fourNotes, placeOfNote } from './four-notes.ts';
import { demo, expect, test } from './fixture.ts';
import { settled } from './settled.ts';

test.use({ hasTouch: true });

interface At {
  readonly x: number;
  readonly y: number;
}
type Kind = 'touchStart' | 'touchMove' | 'touchEnd';

/** Fingers on the glass, as the browser's own input has them (Chrome DevTools Protocol, Input domain). */
async function fingers(page: Page) {
  const cdp: CDPSession = await page.context().newCDPSession(page);
  const send = (type: Kind, at: readonly At[]): Promise<unknown> =>
    cdp.send('Input.dispatchTouchEvent', { type, touchPoints: at.map((p, id) => ({ ...p, id })) });
  const between = (a: At, b: At, part: number): At => ({
    x: a.x + (b.x - a.x) * part,
    y: a.y + (b.y - a.y) * part,
  });
  return {
    drag: async (from: readonly At[], to: readonly At[]): Promise<void> => {
      // The second finger comes a moment behind the first, as fingers do.
      for (let n = 1; n <= from.length; n++) await send('touchStart', from.slice(0, n));
      for (const part of [0.25, 0.5, 0.75, 1])
        await send(
          'touchMove',
          from.map((a, n) => between(a, to[n]!, part)),
        );
      await send('touchEnd', []);
    },
    /** A finger rests until something has come of it. */
    rest: async (at: At, until: () => Promise<unknown>): Promise<void> => {
      await send('touchStart', [at]);
      await until();
      await send('touchEnd', []);
    },
  };
}

test('notes are moved, selected and looked at from near by touch', async ({ page, api }) => {
  const { id } = await api.bring('touched.mid', fourNotes());
  await page.goto(`/songs/${id}/notes`);
  const plane = page.getByRole('application');
  await expect(plane).toBeVisible();
  const hand = await fingers(page);
  // A finger drags a note to another key.
  await hand.drag([await placeOfNote(page, 30, 60)], [await placeOfNote(page, 30, 63)]);
  await expect(page.getByRole('link', { name: 'History' })).toContainText('1 step');
  const first = readIndependently((await api.handOff(id)).bytes).tracks[1]!;
  expect(first.filter((e) => / 9/.test(e))[0]).toMatch(/^0 903f/);
  // A finger that rests on a note takes it along, another out of it again.
  await page.touchscreen.tap(
    ...(Object.values(await placeOfNote(page, 384 + 40, 62)) as [number, number]),
  );
  await hand.rest(await placeOfNote(page, 768 + 40, 64), () =>
    expect(page.getByRole('main', { name: 'Note view' })).toContainText('2 notes selected'),
  );
  await expect(page.getByRole('main', { name: 'Note view' })).toContainText('2 notes selected');
  // Two fingers look nearer, and neither select, nor move, nor let go what is selected.
  const view = page.locator('[data-in-view]');
  const before = (await view.boundingBox())!.width;
  const box = (await plane.boundingBox())!;
  const at = (part: number): At => ({ x: box.x + part * box.width, y: box.y + 60 });
  await hand.drag([at(0.4), at(0.6)], [at(0.2), at(0.8)]);
  await expect.poll(async () => (await view.boundingBox())!.width).toBeLessThan(before * 0.6);
  await expect(page.getByRole('main', { name: 'Note view' })).toContainText('2 notes selected');
  await expect(page.getByRole('link', { name: 'History' })).toContainText('1 step');
});

test('a lane is drawn by a finger, two only look nearer; the strip is dragged over and tells the place', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('lane by touch.mid', fourNotes());
  await page.goto(`/songs/${id}/lanes`);
  const lane = page.getByRole('img', { name: 'expression of Oboe' });
  await expect(lane).toBeVisible();
  const hand = await fingers(page);
  const box = (await lane.boundingBox())!;
  const at = (part: number, y = 20): At => ({ x: box.x + part * box.width, y: box.y + y });
  await hand.drag([at(0.3), at(0.5)], [at(0.1), at(0.7)]);
  const view = page.locator('[data-in-view]');
  await expect(view).toBeVisible();
  expect((await api.song(id)).revision).toBe(0);
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  const bars = (await strip.boundingBox())!;
  const on = (part: number): At => ({ x: bars.x + part * bars.width, y: bars.y + 30 });
  await hand.drag([on(0.1)], [on(0.6)]);
  await expect(page.getByRole('button', { name: 'Bars 1 to 3' })).toBeVisible();
  // A finger that rests is told the place.
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Input.dispatchTouchEvent', {
    type: 'touchStart',
    touchPoints: [on(0.3)],
  });
  await expect(strip.getByText(/^2\.\d\.\d+ · 0:0/)).toBeVisible();
  await cdp.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await hand.drag([at(0.2, 60)], [at(0.3, 60)]);
  await expect(page.getByRole('region', { name: 'Messages' })).toContainText('Drew expression');
});

test('whoever wants no motion gets none', async ({ page, api }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const { id } = await api.bring('still.mid', demo('phone sketch.mid'));
  for (const view of ['', '/notes', '/lanes', '/timing', '/out']) {
    await page.goto(`/songs/${id}${view}`);
    await page.getByRole('main').first().waitFor();
    await settled(page);
    const moving = await page.evaluate(
      () => document.getAnimations().filter((a) => a.playState === 'running').length,
    );
    expect(moving, view).toBe(0);
  }
});
