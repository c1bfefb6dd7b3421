import { chromium } from 'playwright-core';
import { readFileSync } from 'node:fs';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--autoplay-policy=no-user-gesture-required'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript(() => {
  const connect = AudioNode.prototype.connect;
  AudioNode.prototype.connect = function (to) {
    const a = new AnalyserNode(this.context, { fftSize: 32768 });
    connect.call(this, a);
    (globalThis.taps ??= []).push([this.constructor.name, a]);
    return connect.call(this, to);
  };
});
const form = new FormData();
form.append('file', new Blob([readFileSync(process.argv[2])]), 'dense2.mid');
const got = await (
  await fetch('http://127.0.0.1:4181/api/songs', { method: 'POST', body: form })
).json();
await page.goto(`http://127.0.0.1:4181/songs/${got.songs[0].id}`);
await page.waitForTimeout(1500);
await page.keyboard.press('p');
await page.waitForFunction(() => {
  const t = document.querySelector('[data-testid=heard]')?.textContent;
  return t && t !== '0:00';
});
const most = {};
for (let i = 0; i < 16; i++) {
  const r = await page.evaluate(() =>
    taps.map(([n, a]) => {
      const b = new Float32Array(32768);
      a.getFloatTimeDomainData(b);
      let m = 0;
      for (const s of b) m = Math.max(m, Math.abs(s));
      return [n, m];
    }),
  );
  for (const [n, m] of r) most[n] = Math.max(most[n] ?? 0, m);
  await page.waitForTimeout(600);
}
console.log(most);
await browser.close();
