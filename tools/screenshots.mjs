// npm run screenshots: the pictures in docs/screenshots, from a fresh demo in a folder of its own.
import { spawn } from 'node:child_process';
import { mkdtempSync, mkdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium as browserPath, ensureDebian, ensurePackages, root } from './setup.mjs';

ensureDebian({ browser: true });
ensurePackages();
const { chromium } = await import('@playwright/test');
const data = mkdtempSync(path.join(tmpdir(), 'satchel-pictures-'));
const start = spawn(process.execPath, [path.join(root, 'tools', 'start.mjs'), '--demo'], {
  env: { ...process.env, SATCHEL_DATA: data, SATCHEL_PORT: '0' },
  stdio: ['ignore', 'pipe', 'inherit'],
});
const address = await new Promise((resolve) =>
  start.stdout.on(
    'data',
    (text) =>
      /at (http:\S+) with the demo/.exec(text)?.[1] &&
      resolve(/at (http:\S+) with the demo/.exec(text)[1]),
  ),
);
// However this ends, the server does.
process.on('exit', () => start.kill('SIGTERM'));
const folder = path.join(root, 'docs', 'screenshots');
mkdirSync(folder, { recursive: true });

const { songs } = await (await fetch(`${address}/api/songs`)).json();
const id = (title) => songs.find((s) => s.title === title).id;
const post = async (song, what, body) => {
  const response = await fetch(`${address}/api/songs/${song}/${what}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(await response.text());
};
const sketch = id('phone sketch');
const step = (revision, operation, tracks, settings = {}) =>
  post(sketch, 'steps', { operation, settings, scope: { tracks }, revision });
await step(1, 'tracks.rename', ['t2'], { name: 'Voice' });
await step(2, 'tracks.remove', ['t3']);
await step(3, 'tracks.rename', ['t4'], { name: 'Double Bass' });
await step(4, 'tracks.reorder', ['t5'], { before: 't4' });
await post(sketch, 'undo', {});
await post(sketch, 'handoffs', { format: 1 });

const browser = await chromium.launch({
  executablePath: browserPath(),
  args: ['--disable-quic', '--autoplay-policy=no-user-gesture-required'],
});
async function picture(name, view, { night = false, act } = {}) {
  const page = await browser.newPage({
    viewport: { width: 1280, height: 800 },
    colorScheme: night ? 'dark' : 'light',
  });
  await page.goto(address + view);
  await page.waitForLoadState('networkidle');
  await page.getByText('Looking the song over').waitFor({ state: 'hidden' });
  await act?.(page);
  await page.waitForTimeout(300);
  await page.screenshot({ path: path.join(folder, `${name}.png`) });
  await page.close();
}
await picture('songs', '/');
await picture('bring-in', `/songs/${id('damaged copy')}/in`);
const ferry = Buffer.from(
  await (await fetch(`${address}/api/songs/${id('The Lantern Ferry')}/original`)).arrayBuffer(),
);
await picture('intake', `/songs/${id('squall ramp')}/in`, {
  act: async (page) => {
    await page
      .getByTestId('source-file')
      .setInputFiles({ name: 'The Lantern Ferry.mid', mimeType: 'audio/midi', buffer: ferry });
    await page.getByRole('checkbox', { name: 'Take Voice' }).click();
    await page.getByRole('radio', { name: /From a bar on/ }).click();
    await page.getByRole('spinbutton', { name: 'Bar', exact: true }).fill('17');
    await page.getByText('at bar 17').first().waitFor();
  },
});
await picture('sheet', `/songs/${id('The Lantern Ferry')}`);
await picture('instrument', `/songs/${id('The Lantern Ferry')}`, {
  act: async (page) => {
    await page.locator('tr[data-track]', { hasText: 'Clarinet' }).first().click();
    await page.keyboard.press('i');
    await page.getByText('What may play it').waitFor();
    await page.keyboard.press('ArrowUp');
    await page.getByText(/^Gave Clarinet/).waitFor();
  },
});
await picture('hearing', `/songs/${id('The Lantern Ferry')}`, {
  act: async (page) => {
    await page.getByRole('checkbox', { name: 'Toy Piano' }).click();
    await page.keyboard.press('k');
    await page.getByRole('button', { name: 'How it is heard' }).click();
    await page.getByRole('combobox', { name: 'MIDI port' }).click();
    await page.getByRole('option', { name: /^Sound module/ }).click();
    await page.keyboard.press('Escape');
    await page.locator('tr[data-track]', { hasText: 'Toy Piano' }).focus();
    await page.keyboard.press('p');
    await page.getByText(/^runs at sixteenth [5-9]/).waitFor({ timeout: 60_000 });
    await page.getByRole('button', { name: 'How it is heard' }).click();
  },
});
await picture('instruments', '/instruments?open=along-clarinet-in-b-flat');
await picture('findings', `/songs/${id('instrument capture')}`);
const capture = id('instrument capture');
await picture('notes', `/songs/${id('The Lantern Ferry')}/notes`, {
  act: async (page) => {
    await page.getByRole('radio', { name: 'Accordion' }).click();
    const box = await page.getByRole('application').boundingBox();
    await page.mouse.move(box.x + 300, box.y + 150);
    await page.mouse.down();
    await page.mouse.move(box.x + 560, box.y + 330, { steps: 4 });
  },
});
await post(capture, 'steps', {
  operation: 'controllers.park',
  settings: { lanes: [91, 93] },
  scope: { tracks: 'all' },
  revision: 0,
});
await picture('lanes', `/songs/${capture}/lanes`, { act: (page) => page.waitForTimeout(500) });
await post(capture, 'undo', {});
await post(id('squall ramp'), 'steps', {
  operation: 'timing.sections',
  settings: {},
  scope: { tracks: 'all' },
  revision: 0,
});
await picture('timing', `/songs/${id('squall ramp')}/timing`);
await picture('arrange', `/songs/${id('The Lantern Ferry')}/arrange`, {
  act: async (page) => {
    await page.locator('[data-span]', { hasText: 'Squall' }).focus();
    for (let n = 0; n < 4; n++) await page.keyboard.press('Alt+ArrowUp');
    await page.getByRole('button', { name: 'Repeat Glow, lanterns' }).click();
    await page.getByText(/^What was bar/).waitFor();
  },
});
await picture('recipes', '/recipes', {
  act: (page) => page.getByRole('button', { name: /^Ready for another/ }).click(),
});
await picture('event-list', `/songs/${id('The Lantern Ferry')}/events`, {
  act: (page) => page.locator('[role=option]').nth(8).click(),
});
const handed = id('The Lantern Ferry');
await post(handed, 'steps', {
  operation: 'timing.sections',
  settings: {},
  scope: { tracks: 'all' },
  revision: 0,
});
await post(handed, 'handoffs', { divide: 'tracks' });
await picture('hand-off', `/songs/${handed}/out`, {
  act: async (page) => {
    await page.getByRole('option', { name: 'Program without tempo and meter' }).click();
    await page.getByText('sound earlier or later').hover();
    await page.getByText(/^Make the \d+ files/).waitFor();
  },
});
await picture('receivers', '/receivers?open=keyboard');
await picture('history', `/songs/${sketch}/history`, {
  act: (page) => page.locator('summary').nth(2).click(),
});
await picture('shelf', `/songs/${id('The Lantern Ferry')}/shelf`, {
  act: async (page) => {
    await page.getByRole('listbox', { name: 'Clips' }).focus();
    for (let n = 0; n < 8; n++) await page.keyboard.press('ArrowDown');
    await page.getByRole('img', { name: 'is heard' }).waitFor({ timeout: 60_000 });
  },
});
// Last: it writes chords, which the other pictures have none of.
await picture('harmony', `/songs/${id('The Lantern Ferry')}/harmony`, {
  act: async (page) => {
    const list = page.getByRole('listbox', { name: 'Bars with their chords' });
    await list.getByText('B♭maj7/D').waitFor();
    await list.focus();
    for (let n = 0; n < 14; n++) await page.keyboard.press('ArrowDown');
    for (let n = 0; n < 3; n++) await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('t');
    await page.locator('#bar-18', { hasText: 'C' }).waitFor();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.type('Dm9 G7/B');
    await page.keyboard.press('Enter');
    await page.locator('#bar-19', { hasText: 'Dm9 G7/B' }).waitFor();
  },
});
await browser.close();
start.kill('SIGTERM');
await new Promise((resolve) => start.once('exit', resolve));
rmSync(data, { recursive: true, force: true });
