// How large the page is before its first view shows, and how long a press on a song takes until its sheet can be used.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { chromium } from 'playwright-core';
import { ask, bring, withServer } from './bench-path.mjs';
import { ensureDebian, root } from './setup.mjs';

/** Scripts and styles that the first view waits for: those that index.html names. */
function firstLoad() {
  const folder = path.join(root, 'dist', 'web');
  const files = [
    ...readFileSync(path.join(folder, 'index.html'), 'utf8').matchAll(
      /(?:src|href)="(\/[^"]+\.(?:js|css))"/g,
    ),
  ].map((m) => readFileSync(path.join(folder, m[1])));
  const kilobytes = (sizes) => Math.round(sizes.reduce((sum, n) => sum + n, 0) / 1000);
  return {
    whole: kilobytes(files.map((f) => f.length)),
    packed: kilobytes(files.map((f) => gzipSync(f).length)),
  };
}

/** A file of so many tracks with 100 notes each. */
function fileOf(tracks) {
  const head = Buffer.from([
    0x4d,
    0x54,
    0x68,
    0x64,
    0,
    0,
    0,
    6,
    0,
    1,
    tracks >> 8,
    tracks & 255,
    1,
    0xe0,
  ]);
  const body = Buffer.from([
    ...Array.from({ length: 100 }, (_, n) => [
      n % 96,
      0x90,
      40 + (n % 40),
      80,
      96,
      0x80,
      40 + (n % 40),
      64,
    ]).flat(),
    0,
    0xff,
    0x2f,
    0,
  ]);
  const track = Buffer.concat([
    Buffer.from([0x4d, 0x54, 0x72, 0x6b, 0, 0, body.length >> 8, body.length & 255]),
    body,
  ]);
  return Buffer.concat([head, ...Array.from({ length: tracks }, () => track)]);
}

export async function pageLoad(print) {
  ensureDebian({ browser: true });
  await withServer(async (address) => {
    const { whole, packed } = firstLoad();
    print(`  first load               ${whole} kB of scripts and styles, ${packed} kB packed`);
    const browser = await chromium.launch({
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox'],
    });
    try {
      for (const tracks of [20, 1000]) {
        const { answer } = await bring(address, fileOf(tracks));
        const [{ id }] = answer.songs;
        await ask(address, 'POST', `/api/songs/${id}/steps`, {
          operation: 'song.name',
          settings: { title: `${tracks} tracks` },
          revision: 0,
        });
        const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
        const times = [];
        let asked = 0;
        page.on('request', (r) => (asked += Number(r.url().includes('/api/'))));
        for (let n = 0; n < 5; n++) {
          await page.goto(address);
          const link = page.getByRole('link', { name: `${tracks} tracks`, exact: true });
          await link.waitFor();
          asked = 0;
          const began = performance.now();
          await link.click();
          await page.locator('tr[data-track]').nth(10).waitFor();
          times.push(performance.now() - began);
        }
        print(
          `  ${tracks} tracks`.padEnd(27) +
            `usable sheet ${Math.round(times.sort((a, b) => a - b)[2])} ms after the press, ${asked} requests by then`,
        );
        await page.close();
      }
    } finally {
      await browser.close();
    }
  });
}
