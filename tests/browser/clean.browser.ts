import { readIndependently } from '../support/independent.ts';
import { demo, expect, expectAccessible, row, test } from './fixture.ts';

test('the worst file is cleaned from its findings alone, each step seen before it is taken', async ({
  page,
  api,
}) => {
  const file = demo('instrument capture.mid');
  const { id } = await api.bring('capture.mid', file);
  await page.goto(`/songs/${id}`);
  const findings = page.getByRole('region', { name: 'Findings' });
  await expect(findings.getByRole('heading')).toHaveText('28 findings');
  await expectAccessible(page);
  for (let n = 0; n < 30; n++) {
    if ((await findings.getByText('Nothing to settle').count()) > 0) break;
    const before = await findings.getByRole('heading').textContent();
    await findings.getByRole('listitem').first().getByRole('button').first().click();
    await expect(page.getByRole('region', { name: 'Step' })).toContainText('It would touch');
    if (n === 0) await expectAccessible(page);
    await page.getByRole('button', { name: 'Do it' }).click();
    await expect(findings).toBeVisible();
    await expect(findings.getByRole('heading')).not.toHaveText(before!);
  }
  await expect(findings).toContainText('Nothing to settle');
  const notes = (bytes: Uint8Array): string[][] =>
    readIndependently(bytes).tracks.map((t) =>
      t.filter((e) => / [89]/.test(e)).map((e) => e.slice(0, -2)),
    );
  const { bytes, handoff } = await api.handOff(id);
  expect(notes(bytes)).toEqual(notes(file));
  expect(handoff.slip.proof.holds).toBe(true);
  // All but a few of 34,000 events were ballast.
  expect(bytes.length).toBeLessThan(file.length / 4);
});

test(
  'a part is cleaned by hand: only its notes, in some bars, an octave down',
  { tag: '@quick' },
  async ({ page, api }) => {
    const { id } = await api.bring('hand.mid', demo('instrument capture.mid'));
    await page.goto(`/songs/${id}`);
    await row(page, 'Track 1').click();
    await expect(page.getByText('Removing takes out 38 notes')).toBeVisible();
    await page.getByRole('button', { name: /^Keep only notes/ }).click();
    const step = page.getByRole('region', { name: 'Step' });
    await expect(step).toContainText('On Track 1');
    await expect(step).toContainText('8,571 → 78 events');
    await step.getByRole('button', { name: 'Do it' }).click();
    await expect(row(page, 'Track 1')).not.toContainText('Violin');
    await expect(page.getByText('Removing takes out 38 notes, 1 name')).toBeVisible();
    await page.getByRole('button', { name: /^Transpose/ }).click();
    await step.getByRole('spinbutton', { name: 'Last bar' }).fill('4');
    await step.getByRole('spinbutton', { name: 'Semitones' }).fill('-12');
    await expect(step).toContainText('It would touch 4 notes');
    await step.getByRole('button', { name: 'Do it' }).click();
    await expect(step).toHaveCount(0);
    // One message offers to undo, the latest step, and says then what is undone; no older one undoes it in its name.
    const messages = page.getByRole('region', { name: 'Messages' });
    await expect(messages.getByRole('button', { name: 'Undo' })).toHaveCount(1);
    await messages.getByRole('button', { name: 'Undo' }).click();
    await expect(messages).toContainText('Undone: Transposed');
    await expect(messages.getByRole('button', { name: 'Undo' })).toHaveCount(0);
    await api.send('POST', `/api/songs/${id}/redo`, {});
    const [, part] = readIndependently((await api.handOff(id)).bytes).tracks;
    const [, before] = readIndependently(demo('instrument capture.mid')).tracks;
    const keys = (events: readonly string[]): number[] =>
      events
        .filter((e) => / 90/.test(e))
        .map((e) => Number.parseInt(e.split(' ')[1]!.slice(2, 4), 16));
    expect(keys(part!)).toEqual(keys(before!).map((k, i) => (i < 4 ? k - 12 : k)));
    expect(part!.some((e) => / [abcde]0/.test(e))).toBe(false);
  },
);

test('the whole of the worst file is cleaned by hand: only notes are left, and their velocities come to life', async ({
  page,
  api,
}) => {
  const file = demo('instrument capture.mid');
  const { id } = await api.bring('whole.mid', file);
  await page.goto(`/songs/${id}`);
  const step = page.getByRole('region', { name: 'Step' });
  const take = async (operation: RegExp, prepare?: () => Promise<void>): Promise<void> => {
    await page.getByRole('button', { name: operation }).click();
    await prepare?.();
    await expect(step).toContainText('It would touch');
    await step.getByRole('button', { name: 'Do it' }).click();
    await expect(step).toHaveCount(0);
  };
  await take(/^Keep only notes …/);
  await take(/^Randomise velocity …/, () =>
    step.getByRole('spinbutton', { name: /^Spread/ }).fill('20'),
  );
  const after = readIndependently((await api.handOff(id)).bytes);
  const notes = (tracks: readonly (readonly string[])[]): string[][] =>
    tracks.map((t) => t.filter((e) => / [89]/.test(e)).map((e) => e.slice(0, -2)));
  expect(notes(after.tracks)).toEqual(notes(readIndependently(file).tracks));
  expect(after.tracks.flat().filter((e) => / ([abcde]|f0)/.test(e))).toEqual([]);
  expect(
    new Set(
      after.tracks
        .flat()
        .filter((e) => / 9/.test(e))
        .map((e) => e.slice(-2)),
    ).size,
  ).toBeGreaterThan(10);
});

test('a finding that is meant to be is left alone and stays so', async ({ page, api }) => {
  const { id } = await api.bring('leave.mid', demo('phone sketch.mid'));
  await page.goto(`/songs/${id}`);
  const findings = page.getByRole('region', { name: 'Findings' });
  // A finding is opened at its place: its bars become those of the scope.
  await findings
    .getByRole('listitem')
    .filter({ hasText: 'rest stand' })
    .getByRole('button', { name: 'Show' })
    .click();
  await page.getByRole('button', { name: /^Bars? 1/ }).click();
  const doubled = findings.getByRole('listitem').filter({ hasText: 'doubles' });
  await doubled.getByRole('button', { name: 'Leave' }).click();
  await expect(doubled).toHaveCount(0);
  await page.reload();
  await findings.getByRole('button', { name: '1 finding left alone' }).click();
  await doubled.getByRole('button', { name: 'Take up again' }).click();
  await expect(findings.getByRole('button', { name: /left alone/ })).toHaveCount(0);
});
