import { chromium } from 'playwright-core';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--autoplay-policy=no-user-gesture-required'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (m) => m.type() === 'error' && console.log('console', m.text().slice(0, 300)));
page.on('pageerror', (e) => console.log('pageerror', e.message.slice(0, 300)));
const songs = await (await fetch('http://127.0.0.1:4181/api/songs')).json();
const song = songs.songs.find((s) => /Lantern/.test(s.title)) ?? songs.songs[0];
await page.goto(`http://127.0.0.1:4181/songs/${song.id}`);
await page.waitForTimeout(1500);
await page.keyboard.press('k');
await page.getByRole('button', { name: 'How it is heard' }).click();
await page.waitForTimeout(600);
await page.screenshot({ path: '/tmp/s1.png' });
await page.getByRole('combobox', { name: 'MIDI port' }).click();
await page.getByRole('option', { name: /Sound module/ }).click();
await page.waitForTimeout(300);
await page.screenshot({ path: '/tmp/s2.png' });
await page.keyboard.press('Escape');
const t0 = Date.now();
await page.keyboard.press('p');
await page.getByRole('button', { name: 'Pause' }).waitFor();
for (let i = 0; i < 30; i++) {
  const t = await page
    .getByTestId('heard')
    .textContent()
    .catch(() => '');
  if (t && t !== '0:00') {
    console.log('plays after', Date.now() - t0, t);
    break;
  }
  await page.waitForTimeout(200);
}
await page.waitForTimeout(6000);
console.log(
  await page.getByTestId('module-clock').textContent(),
  await page.getByTestId('module-tempo').textContent(),
  await page.getByTestId('module-received').textContent(),
);
console.log('lit', await page.getByTestId('lit').textContent());
await page.screenshot({ path: '/tmp/s3.png' });
await page.keyboard.press('p');
await page.waitForTimeout(800);
console.log(await page.getByTestId('module-clock').textContent());
await browser.close();
