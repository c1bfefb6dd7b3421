import { chromium } from 'playwright-core';
import { readFileSync } from 'node:fs';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--autoplay-policy=no-user-gesture-required'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('pageerror', (e) => console.log('pageerror', e.message.slice(0, 300)));
await page.addInitScript(() => {
  const C = AudioContext;
  globalThis.AudioContext = class extends C {
    constructor(...a) {
      super(...a);
      globalThis.ctx = this;
    }
  };
});
const form = new FormData();
form.append('file', new Blob([readFileSync(process.argv[2])]), process.argv[3] ?? 'dense.mid');
const got = await (
  await fetch('http://127.0.0.1:4181/api/songs', { method: 'POST', body: form })
).json();
const id = got.songs[0].id;
await page.goto(`http://127.0.0.1:4181/songs/${id}`);
await page.waitForTimeout(1500);
await page.keyboard.press('p');
const t0 = Date.now();
await page.waitForFunction(() => {
  const t = document.querySelector('[data-testid=heard]')?.textContent;
  return t && t !== '0:00';
});
console.log('first second after', Date.now() - t0);
for (let i = 0; i < 4; i++) {
  const a = await page.evaluate(() => [ctx.currentTime, performance.now()]);
  await page.waitForTimeout(4000);
  const b = await page.evaluate(() => [ctx.currentTime, performance.now()]);
  console.log('clock ratio', (((b[0] - a[0]) * 1000) / (b[1] - a[1])).toFixed(3));
}
await page.keyboard.press('p');
await page.waitForTimeout(300);
// start latency once loaded: key to first heard report
for (let i = 0; i < 3; i++) {
  const ms = await page.evaluate(async () => {
    const t = performance.now();
    const was = ctx.currentTime;
    dispatchEvent(new KeyboardEvent('keydown', { key: 'p', bubbles: true }));
    await new Promise((r) => {
      const f = () =>
        document.querySelector('button[aria-label=Pause]:not(:has(.opacity-40))')
          ? r()
          : setTimeout(f, 1);
      f();
    });
    return performance.now() - t;
  });
  console.log('key to playing', ms.toFixed(1));
  await page.waitForTimeout(500);
  await page.keyboard.press('p');
  await page.waitForTimeout(500);
}
await browser.close();
