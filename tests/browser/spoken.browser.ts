import { spoken } from '../support/spoken.ts';
import { demo, expect, test } from './fixture.ts';

const doubled = '(Track 3 doubles track 2 an octave up';
const shows = 'Shows what it would do; with Shift it is done at once)';
const spokenLines = [
  // G leads to the first finding, Tab from one to the next.
  `g: “Remove track 3: 76 notes, no program”, button, ${doubled} ${shows}`,
  `Tab: “Remove track 2: 76 notes, no program”, button, ${doubled} ${shows}`,
  `Tab: “Show”, button, ${doubled} Marks the very events, and goes there)`,
  `Tab: “Leave”, button, ${doubled})`,
  'Tab: “Hear it”, button, (Hear it as it would be (B switches))',
  `Tab: “Spread, louder on the beats (4)”, button, (Parts with one velocity ${shows}`,
  // The step is told before it is done; done, the next finding has the focus.
  'Enter: “Step”, region',
  '* It would touch 332 notes in 4 tracks.',
  'Enter:',
  '* Velocity spread over 60 to 92 on 332 notes in 4 tracks',
  `then: “Remove track 3: 76 notes, no program”, button, ${doubled} ${shows}`,
  // The view begins at what it is for.
  '0:',
  'then: “Make the file”, button',
  'Enter:',
  '* Made by ear.mid',
  '* 1 file made, read back and held against the song',
  'then: “Download”, link',
];

test('the flat part is found, settled and handed off by ear: keys alone, as a screen reader says it', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('by ear.mid', demo('phone sketch.mid'));
  const reader = await spoken(page);
  await page.goto(`/songs/${id}`);
  await page.getByRole('region', { name: 'Findings' }).waitFor();
  await reader.press('g');
  while (!reader.lines.at(-1)!.includes('Spread, louder on the beats')) await reader.press('Tab');
  await reader.press('Enter');
  await reader.until(/It would touch/);
  await reader.begin('Enter');
  await reader.until(/Velocity spread/);
  await reader.hear(/Remove track 3.*at once/);
  await reader.begin('0');
  await reader.hear(/Make the file”/);
  await reader.begin('Enter');
  await reader.until(/1 file made/);
  await reader.hear(/Download/);
  expect(reader.lines).toEqual(spokenLines);
});
