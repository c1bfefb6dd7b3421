import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { test as base, expect, type Locator, type Page } from '@playwright/test';
import { demoFiles } from '#demo/files.ts';
import { Api } from '../support/api.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

/** Each test file's worker has a server with an empty database; each test an API client beside the page. */
export const test = base.extend<
  { api: Api; errors: string[]; asShipped: undefined },
  { server: RunningServer }
>({
  server: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const server = await freshServer();
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ server }, use) => use(server.address),
  api: async ({ server }, use) => use(new Api(server.address)),
  /** What one test prefers no other finds. */
  asShipped: [
    async ({ api }, use) => {
      await api.send('PUT', '/api/preferences', {});
      await use(undefined);
    },
    { auto: true },
  ],
  /** What the page complained of; every test ends with none. */
  errors: [
    async ({ page }, use) => {
      const errors: string[] = [];
      page.on('pageerror', (e) => errors.push(e.message));
      page.on(
        'console',
        (m) =>
          m.type() === 'error' &&
          !/Failed to load resource/.test(m.text()) &&
          errors.push(m.text()),
      );
      await use(errors);
      expect(errors).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

export const demo = (name: string): Uint8Array => demoFiles.find((f) => f.name === name)!.bytes();

export const asFile = (name: string, bytes = demo(name)) => ({
  name,
  mimeType: 'audio/midi',
  buffer: Buffer.from(bytes),
});

/** Drops files on the page as a person would from a folder. */
export async function drop(
  page: Page,
  ...files: { name: string; bytes: Uint8Array }[]
): Promise<void> {
  const data = await page.evaluateHandle(
    (list) => {
      const transfer = new DataTransfer();
      for (const f of list) transfer.items.add(new File([Uint8Array.from(f.bytes)], f.name));
      return transfer;
    },
    files.map((f) => ({ name: f.name, bytes: [...f.bytes] })),
  );
  for (const type of ['dragenter', 'dragover', 'drop'])
    await page.dispatchEvent('body', type, { dataTransfer: data });
}

/** Bytes of what a press on `press` downloads. */
export async function downloaded(
  page: Page,
  press: () => Promise<void>,
): Promise<{ name: string; bytes: Uint8Array }> {
  const [download] = await Promise.all([page.waitForEvent('download'), press()]);
  return {
    name: download.suggestedFilename(),
    bytes: new Uint8Array(readFileSync(await download.path())),
  };
}

export const row = (page: Page, name: string) => page.locator('tr[data-track]', { hasText: name });

export const names = (page: Page): Promise<string[]> =>
  page.locator('tr[data-track] .truncate:first-child').allTextContents();

export async function expectAccessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(
    violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => n.target.join(' '))
          .slice(0, 3)
          .join(' | ')}`,
    ),
  ).toEqual([]);
}

/** Chooses an option of a list that a press opens, by what it is called. */
export async function choose(field: Locator, option: string): Promise<void> {
  await field.click();
  await field.page().getByRole('option', { name: option, exact: true }).click();
}
