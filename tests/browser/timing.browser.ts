import { independentMap } from '../support/independent-map.ts';
import { demo, downloaded, expect, expectAccessible, test } from './fixture.ts';

test('a map is typed, the shredded ramp thinned, the length and the start timecode set, and an independent reader agrees', async ({ page, api }) => {
  const { id } = await api.bring('ramp.mid', demo('squall ramp.mid'));
  await page.goto(`/songs/${id}/timing`);
  await expect(page.getByText(/and [\d,]+ more|98\.1/).first()).toBeVisible();
  await expectAccessible(page);
  const step = page.getByRole('region', { name: 'Step', exact: true });
  const doIt = async (): Promise<void> => {
    await step.getByRole('button', { name: 'Do it' }).click();
    await expect(step).toHaveCount(0);
  };
  await page.getByRole('button', { name: /^Thin shredded/ }).click();
  await expect(step).toContainText('It would touch');
  await doIt();
  await page.getByRole('button', { name: '+ Tempo' }).click();
  await step.getByRole('spinbutton', { name: 'Bar' }).fill('2');
  await step.getByRole('spinbutton', { name: 'Tempo' }).fill('96.5');
  await doIt();
  await page.getByRole('button', { name: '+ Marker' }).click();
  await step.getByRole('spinbutton', { name: 'Bar' }).fill('3');
  await step.getByRole('textbox', { name: 'Text' }).fill('Here');
  await doIt();
  await page.getByRole('button', { name: /^Set the length/ }).click();
  await step.getByRole('spinbutton', { name: 'Last bar' }).fill('125');
  await doIt();
  await page.getByRole('button', { name: /^Set the start timecode/ }).click();
  await step.getByRole('textbox', { name: 'Timecode' }).fill('10:00:00:00');
  await doIt();
  const before = independentMap(demo('squall ramp.mid'));
  const after = independentMap((await api.handOff(id)).bytes);
  expect(before.tempos.length).toBeGreaterThan(500);
  expect(after.tempos.length).toBeLessThan(50);
  // Bar 2 of 4/4 at 480 PPQ begins at tick 1920; 96.5 BPM are 621,762 microseconds a quarter.
  expect(after.tempos).toContainEqual([1920, 621_762]);
  expect(after.markers).toContainEqual([3840, 'Here']);
  expect(after.end).toBe(before.end + 5 * 1920);
  expect((await api.song(id)).timing.startTimecode).toBe('10:00:00:00');
  await page.getByRole('button', { name: 'Take out marker at 3.1.0' }).click();
  await expect(page.getByRole('button', { name: 'Take out marker at 3.1.0' })).toHaveCount(0);
});

test('markers come in from lists: the good lines taken, the bad ones named', async ({ page, api }) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}/timing`);
  const list = (name: string, text: string) => page.getByTestId('list').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  const status = page.getByRole('status').filter({ hasText: 'taken' });
  // The song begins at 01:00:00:00; 3.6364 s in, bar 2 begins (66 BPM): frame 91 of 25 a second is 3.64 s, tick 1921.92.
  await list('cut.edl', 'TITLE: X\nFCM: NON-DROP FRAME\n001  AX  V  C  00:00:00:00 00:00:01:00 01:00:03:16 01:00:05:00\n* FROM CLIP NAME: Lamp\n002  AX  V\n');
  await expect(status).toContainText('1 marker, 0 tempos taken, 1 line not');
  await expect(status).toContainText('Line 5: an edit without its four timecodes');
  await expect(page.getByText('Lamp', { exact: true })).toBeVisible();
  await list('map.csv', 'kind,position,value\nmarker,3.1,Door\ntempo,4,91.5\ntempo,5,fast\n');
  await expect(status).toContainText('Line 4: “fast” is no tempo');
  await expect(page.getByText('Door', { exact: true })).toBeVisible();
  const map = independentMap((await api.handOff(id)).bytes);
  expect(map.markers).toContainEqual([1922, 'Lamp']);
  expect(map.markers).toContainEqual([3840, 'Door']);
  expect(map.tempos).toContainEqual([5760, 655_738]);
  const { bytes } = await downloaded(page, () => page.getByRole('button', { name: 'Save as CSV' }).click());
  // 66 BPM are 909,091 microseconds a quarter in the file; two bars of 4/4 are 7.272728 s.
  const csv = new TextDecoder().decode(bytes);
  expect(csv.split('\n')[0]).toBe('kind,position,seconds,value');
  expect(csv).toContain('marker,3.1.0,7.272728,Door');
});

test('the converter says a place in every way, and marks what is none', async ({ page, api }) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}/timing`);
  const converter = page.getByRole('region', { name: 'Converter' });
  const field = (name: string) => converter.getByLabel(name, { exact: true });
  // 66 BPM: a bar of 4/4 lasts 240/66 = 3.6364 s; 25 frames a second from 01:00:00:00.
  await field('Bar.beat.tick').fill('2');
  await field('Bar.beat.tick').press('Enter');
  await expect(field('Seconds')).toHaveValue('3.6364');
  await expect(field('Timecode')).toHaveValue('01:00:03:15');
  await expect(field('Samples')).toHaveValue('174545');
  await field('Timecode').fill('01:00:03:25');
  await field('Timecode').press('Enter');
  await expect(field('Timecode')).toHaveAttribute('aria-invalid', 'true');
});
