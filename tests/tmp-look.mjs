import { chromium } from 'playwright-core';
const b = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--autoplay-policy=no-user-gesture-required'],
});
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
p.on('console', (m) => m.type() === 'error' && console.log(m.text()));
const base = 'http://127.0.0.1:4181';
await p.goto(base + '/instruments');
await p.waitForTimeout(1500);
await p.getByRole('button', { name: /Clarinet in/ }).click();
await p.waitForTimeout(500);
await p.screenshot({ path: '/tmp/i1.png' });
const songs = await (await fetch(base + '/api/songs')).json();
const song = songs.songs.find((s) => /Ferry/.test(s.title));
await p.goto(`${base}/songs/${song.id}`);
await p.waitForTimeout(2500);
const r = p.locator('tr[data-track]').nth(3);
await r.focus();
await p.keyboard.press('i');
await p.waitForTimeout(2500);
await p.screenshot({ path: '/tmp/i2.png' });
await p.keyboard.type('clar');
await p.waitForTimeout(1200);
await p.screenshot({ path: '/tmp/i3.png' });
await b.close();
