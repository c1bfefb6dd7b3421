import { independentMap } from '../support/independent-map.ts';
import { demo, expect, expectAccessible, test } from './fixture.ts';

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
