import type { Page } from '@playwright/test';

/** Waits for so many frames that the page draws: what follows from a key has been drawn by then. */
export const frames = (page: Page, count: number): Promise<void> =>
  page.evaluate(
    (many) =>
      new Promise<void>((resolve) => {
        let left = many;
        const next = (): void => {
          if (left-- > 0) requestAnimationFrame(next);
          else resolve();
        };
        next();
      }),
    count,
  );

/** Frames in which nothing moves and nothing is added before a page counts as being at rest. */
const restingFrames = 25;

/** Waits until nothing is being fetched, and the page is drawn the same for some frames. */
export async function settled(page: Page): Promise<void> {
  await page.waitForLoadState('networkidle');
  await page.evaluate(
    (many) =>
      new Promise<void>((resolve) => {
        let [same, before] = [0, ''];
        const look = (): void => {
          const { scrollHeight, scrollWidth } = document.documentElement;
          const now = `${document.getElementsByTagName('*').length} ${scrollHeight} ${scrollWidth}`;
          same = now === before ? same + 1 : 0;
          before = now;
          if (same < many) requestAnimationFrame(look);
          else resolve();
        };
        look();
      }),
    restingFrames,
  );
}

/** A gate that what passes it waits at until it is opened. */
export function gate(): { readonly passed: Promise<void>; open(): void } {
  let open = (): void => undefined;
  const passed = new Promise<void>((resolve) => (open = resolve));
  return { passed, open: () => open() };
}
