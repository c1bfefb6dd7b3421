import type { Page } from '@playwright/test';
import wavefile from 'wavefile';
import { gradualRuns } from '#core/timing/gradual-runs.ts';
import type { Api } from '../support/api.ts';
import { independentMap } from '../support/independent-map.ts';
import { emptyFile, namedMap, namedMapSteps, namedSections } from '../support/named-map.ts';
import { temposOf } from '../../web/api/runs.ts';
import { mapScale, tempoRange } from '../../web/screens/timing/map-scale.ts';
import { choose, asFile, demo, downloaded, expect, expectAccessible, test } from './fixture.ts';

test('a map is typed, the shredded ramp thinned, the length and the start timecode set, and an independent reader agrees', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('ramp.mid', demo('squall ramp.mid'));
  await page.goto(`/songs/${id}/timing`);
  // 560 steps are shown as the one change that they are.
  await expect(
    page.getByRole('row', {
      name: /Gradual change 103\.96 to 151\.87 BPM .* 559 steps, at most 0\.0 ms off/,
    }),
  ).toBeVisible();
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

test('markers come in from lists: the good lines taken, the bad ones named', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}/timing`);
  const list = (name: string, text: string) =>
    page
      .getByTestId('list')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  const card = page.getByRole('region', { name: 'List', exact: true });
  const bringIn = async (): Promise<void> => {
    await card.getByRole('button', { name: 'Bring them in' }).click();
    await expect(card).toHaveCount(0);
  };
  // The song begins at 01:00:00:00; 3.6364 s in, bar 2 begins (66 BPM): frame 91 of 25 a second is 3.64 s,
  // tick 1921.92.
  await list(
    'cut.edl',
    'TITLE: X\nFCM: NON-DROP FRAME\n001  AX  V  C  00:00:00:00 00:00:01:00 01:00:03:16 01:00:05:00\n* FROM CLIP NAME: Lamp\n002  AX  V\n',
  );
  await expect(card.getByRole('checkbox', { name: '1 marker' })).toBeChecked();
  await expect(card).toContainText('Line 5: an edit without its four timecodes');
  await expectAccessible(page);
  await bringIn();
  await expect(page.getByText('Lamp', { exact: true })).toBeVisible();
  await list('map.csv', 'kind,position,value\nmarker,3.1,Door\ntempo,4,91.5\ntempo,5,fast\n');
  await expect(card).toContainText('Line 4: “fast” is no tempo');
  await bringIn();
  await expect(page.getByText('Door', { exact: true })).toBeVisible();
  const map = independentMap((await api.handOff(id)).bytes);
  expect(map.markers).toContainEqual([1922, 'Lamp']);
  expect(map.markers).toContainEqual([3840, 'Door']);
  expect(map.tempos).toContainEqual([5760, 655_738]);
  const { bytes } = await downloaded(page, () =>
    page.getByRole('button', { name: 'As CSV' }).click(),
  );
  // 66 BPM are 909,091 microseconds a quarter in the file; two bars of 4/4 are 7.272728 s.
  const csv = new TextDecoder().decode(bytes);
  expect(csv.split('\n')[0]).toBe('kind,position,seconds,timecode,value,end');
  expect(csv).toContain('marker,3.1.0,7.272728,01:00:07:06,Door,');
  // Nothing is taken of a list that holds nothing; why is said.
  await list('notes.txt', 'hello');
  await expect(card).toContainText('Line 1: no column that says places');
  await expect(card.getByRole('button', { name: 'Bring them in' })).toBeDisabled();
});

test('the map travels alone: out as a MIDI file, and in from one, in place of what is there', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('map.mid', emptyFile);
  for (const [operation, settings] of namedMapSteps)
    await api.step(id, (await api.song(id)).revision, operation, settings);
  await page.goto(`/songs/${id}/timing`);
  const { name, bytes } = await downloaded(page, () =>
    page.getByRole('link', { name: 'As MIDI' }).click(),
  );
  expect(name).toBe('map map.mid');
  expect(independentMap(bytes)).toEqual(namedMap);
  // 480 PPQ: five times the ticks of the map.
  const song = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  const before = await api.song(song.id);
  await page.goto(`/songs/${song.id}/timing`);
  await page.getByTestId('list').setInputFiles(asFile('a map.mid', bytes));
  const card = page.getByRole('region', { name: 'List', exact: true });
  for (const held of ['4 tempos', '4 meters', '2 sections', '2 markers'])
    await expect(card.getByRole('checkbox', { name: held })).toBeChecked();
  await card.getByRole('checkbox', { name: '2 markers' }).uncheck();
  await card.getByRole('radio', { name: 'In place of what is there' }).check();
  await choose(card.getByRole('combobox', { name: 'Music here' }), 'keeps its seconds');
  await expect(card).toContainText('moved to stay where they sound');
  await card.getByRole('button', { name: 'Bring them in' }).click();
  await expect(card).toHaveCount(0);
  const map = independentMap((await api.handOff(song.id)).bytes);
  expect(map.tempos).toEqual(namedMap.tempos.map(([tick, tempo]) => [tick! * 5, tempo]));
  expect(map.meters).toEqual(namedMap.meters.map(([tick, ...meter]) => [tick! * 5, ...meter]));
  const { sections, markers, seconds } = (await api.song(song.id)).timing;
  expect(sections.map(({ name: its, from, to }) => ({ name: its, from, to }))).toEqual(
    namedSections,
  );
  expect(markers.map((m) => m.text)).toContain('Mist');
  // The music lasts as long as before.
  expect(seconds).toBeCloseTo(before.timing.seconds, 2);
});

test('the converter of the strip says a place in every way, and marks what is none', async ({
  page,
  api,
}) => {
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
  await expect(field('Frames')).toHaveValue('90');
  await field('Timecode').fill('01:00:03:25');
  await field('Timecode').press('Enter');
  await expect(field('Timecode')).toHaveAttribute('aria-invalid', 'true');
  // A press on the strip says where that is, in every view; put away it stays away.
  await page.getByRole('link', { name: /Look over/ }).click();
  await expect(converter).toHaveCount(0);
  await page.getByRole('button', { name: 'Converter of places' }).click();
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  await strip.click({ position: { x: (await strip.boundingBox())!.width * 0.5, y: 50 } });
  await expect(field('Bar.beat.tick')).toHaveValue(/^6[01]\./);
  await page.getByRole('button', { name: 'Converter of places' }).click();
  await page.getByRole('link', { name: /Timing/ }).click();
  await expect(converter).toHaveCount(0);
});

/** Drags over the tempo line from one place to another, in parts of its width and height. */
async function drag(
  page: Page,
  from: readonly [number, number],
  to: readonly [number, number],
): Promise<void> {
  const box = (await page.getByTestId('tempo-line').boundingBox())!;
  const at = ([x, y]: readonly [number, number]): [number, number] => [
    box.x + x * box.width,
    box.y + y * box.height,
  ];
  await page.mouse.move(...at(from));
  await page.mouse.down();
  await page.mouse.move(...at([(from[0] + to[0]) / 2, (from[1] + to[1]) / 2]), { steps: 3 });
  await page.mouse.move(...at(to), { steps: 3 });
  await page.mouse.up();
}

/** An empty song of 16 bars of 4/4 at 120 BPM. */
async function emptySong(api: Api): Promise<string> {
  const { id } = await api.bring('empty.mid', emptyFile);
  await api.step(id, 0, 'timing.length', { bars: 16 });
  return id;
}

test('the whole map is typed into a song without a note, goes out by the page, and comes in again', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('map.mid', emptyFile);
  await page.goto(`/songs/${id}/timing`);
  const step = page.getByRole('region', { name: 'Step', exact: true });
  const buttons: Record<string, string | RegExp> = {
    'timing.tempo': '+ Tempo',
    'timing.meter': '+ Meter',
    'timing.marker': '+ Marker',
    'timing.section': '+ Section',
    'timing.length': /^Set the length/,
  };
  const fields = {
    bpm: ['spinbutton', /^Tempo/],
    bar: ['spinbutton', /^Bar$/],
    beat: ['spinbutton', /^Beat$/],
    bars: ['spinbutton', /^Last bar/],
    lastBar: ['spinbutton', /^Last bar/],
    numerator: ['spinbutton', /^Beats$/],
    denominator: ['combobox', /^Of/],
    of: ['combobox', /^Counted in/],
    name: ['textbox', /^Name/],
    text: ['textbox', /^Text/],
  } as const;
  for (const [operation, settings] of namedMapSteps) {
    await page.getByRole('button', { name: buttons[operation]! }).click();
    for (const [name, value] of Object.entries(
      operation === 'timing.length' ? settings : { bar: 1, ...settings },
    )) {
      const [role, label] = fields[name as keyof typeof fields];
      const field = step.getByRole(role, { name: label });
      await (role === 'combobox' ? choose(field, String(value)) : field.fill(String(value)));
    }
    await step.getByRole('button', { name: 'Do it' }).click();
    await expect(step).toHaveCount(0);
  }
  await expect(
    page.getByRole('row', { name: /^4\.1\.0 .* Section Rise until 11\.1/ }),
  ).toBeVisible();
  await expect(
    page.getByRole('row', { name: /^8\.1\.0 .* Section Turn until 17\.1/ }),
  ).toBeVisible();
  await page.getByRole('link', { name: /Hand off/ }).click();
  await page.getByRole('button', { name: /^Form/ }).click();
  await choose(page.getByRole('combobox', { name: 'Format' }), 'Format 1');
  await page.getByRole('button', { name: /^Make the/ }).click();
  const { bytes } = await downloaded(page, () =>
    page.getByRole('link', { name: 'Download', exact: true }).click(),
  );
  expect(independentMap(bytes)).toEqual(namedMap);
  await page.goto('/');
  await page.getByTestId('files').setInputFiles(asFile('back.mid', bytes));
  const songs = async () =>
    (await api.send<{ songs: { id: string; fileName: string }[] }>('GET', '/api/songs')).body.songs;
  await expect
    .poll(async () => (await songs()).some((row) => row.fileName === 'back.mid'))
    .toBe(true);
  const back = (await songs()).find((row) => row.fileName === 'back.mid')!;
  expect(
    (await api.song(back.id)).timing.sections.map(({ name, from, to }) => ({ name, from, to })),
  ).toEqual(namedSections);
});

test('the tempo line is drawn, dragged, pressed on and nudged, and the file has what was drawn', async ({
  page,
  api,
}) => {
  const id = await emptySong(api);
  await page.goto(`/songs/${id}/timing`);
  const readout = page.getByTestId('tempo-at');
  const row = (name: RegExp) => page.getByRole('row', { name });
  // Two presses: a tempo; the keys choose it and nudge it.
  const line = page.getByTestId('tempo-line');
  const box = (await line.boundingBox())!;
  await line.dblclick({ position: { x: box.width * 0.25, y: box.height * 0.3 } });
  await expect(readout).toContainText('BPM');
  const [, bar, before] =
    /^(\d+)\.1\.0 · ([\d.]+) BPM/.exec((await readout.textContent())!) ??
    /^(\d+\.\d+)\.0 · ([\d.]+)/.exec((await readout.textContent())!)!;
  await expect(
    row(new RegExp(`^${bar!.replaceAll('.', '\\.')}\\..* Tempo ${before} BPM`)),
  ).toBeVisible();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Alt+ArrowUp');
  await expect(readout).toContainText(`${Number(before) + 3} BPM`);
  await expect(row(new RegExp(` Tempo ${Number(before) + 3} BPM`))).toBeVisible();
  await page.keyboard.press('Delete');
  await expect(row(/ Tempo /)).toHaveCount(0);
  // Typed in its row, it moves.
  await api.step(id, (await api.song(id)).revision, 'timing.tempo', { bar: 2, bpm: 100 });
  await page.reload();
  await page.getByRole('button', { name: 'Change tempo at 2.1.0' }).click();
  const editor = page.getByRole('form', { name: 'Change tempo at 2.1.0' });
  await editor.getByLabel('Place').fill('4.2');
  await editor.getByRole('spinbutton').fill('97.5');
  await editor.getByRole('button', { name: 'Keep' }).click();
  await expect(row(/^4\.2\.0 .* Tempo 97\.5 BPM/)).toBeVisible();
  await page.getByRole('button', { name: 'Take out tempo at 4.2.0' }).click();
  await expect(row(/ Tempo /)).toHaveCount(0);
  // A drag on the ground: a gradual change, which is dragged further by its end.
  await drag(page, [0.35, 0.3], [0.6, 0.75]);
  await expect(row(/Gradual change/)).toBeVisible();
  const changes = async () =>
    gradualRuns(
      independentMap((await api.handOff(id)).bytes).tempos.map(([atTick, tempo]) => ({
        atTick,
        tempo,
      })),
      96,
    );
  const [drawn] = await changes();
  expect(drawn!.from).toBeGreaterThan(drawn!.to);
  expect([drawn!.fromTick % 96, drawn!.toTick % 96]).toEqual([0, 0]);
  // The hand takes it by its end: where that is drawn follows from what is in view.
  const tempos = temposOf(
    [
      { atTick: 0, tempo: 500_000 },
      ...independentMap((await api.handOff(id)).bytes).tempos.map(([atTick, tempo]) => ({
        atTick,
        tempo,
      })),
    ],
    96,
  );
  const scale = mapScale(
    { fromTick: 0, toTick: 16 * 384, ...tempoRange([tempos], 0, 16 * 384) },
    box.width,
    box.height,
  );
  await drag(
    page,
    [scale.x(drawn!.toTick) / box.width, scale.y(drawn!.to) / box.height],
    [scale.x(14 * 384) / box.width, scale.y(drawn!.to) / box.height],
  );
  await expect(row(/Gradual change .* until 15\.1/)).toBeVisible();
  expect(await changes()).toMatchObject([
    { fromTick: drawn!.fromTick, toTick: 14 * 384, from: drawn!.from },
  ]);
  await page.keyboard.press('ArrowLeft');
  await expect(readout).not.toHaveText('');
  const end = await readout.textContent();
  await page.keyboard.press('Alt+ArrowRight');
  await page.keyboard.press('Alt+ArrowDown');
  await expect(readout).not.toHaveText(end!);
  await expect.poll(async () => (await changes())[0]!.fromTick).toBe(drawn!.fromTick + 96);
  await expect(page.getByText(/^1 gradual change|, 1 gradual change/)).toBeVisible();
  // One hand after the other, without waiting for the first: nothing that was drawn is lost.
  await drag(page, [0.08, 0.9], [0.2, 0.8]);
  await drag(page, [0.24, 0.8], [0.32, 0.9]);
  await expect(page.getByText(/, 3 gradual changes/)).toBeVisible();
  await expectAccessible(page);
});

test('sections are made of markers and of bars on the strip, and changed in their rows', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}/timing`);
  await page.getByRole('button', { name: /^Make sections of the markers/ }).click();
  await page.getByRole('button', { name: 'Do it' }).click();
  await expect(
    page.getByRole('row', { name: /^15\.1\.0 .* Section Ferryman, row until 31\.1/ }),
  ).toBeVisible();
  const strip = page.getByRole('slider', { name: 'Place in the bars' });
  const box = (await strip.boundingBox())!;
  // 120 bars over the width: from the middle of bar 3 to the middle of bar 6.
  await page.mouse.move(box.x + (2.5 / 120) * box.width, box.y + box.height - 30);
  await page.mouse.down();
  await page.mouse.move(box.x + (5.5 / 120) * box.width, box.y + box.height - 30, { steps: 4 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Section …', exact: true }).click();
  await page.getByRole('textbox', { name: 'Name of the section' }).fill('Bell');
  await page.keyboard.press('Enter');
  await expect(
    page.getByRole('row', { name: /^3\.1\.0 .* Section Bell until 7\.1/ }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Change section at 3.1.0' }).click();
  const editor = page.getByRole('form', { name: 'Change section Bell' });
  await editor.getByRole('textbox', { name: 'Name' }).fill('Bells');
  await editor.getByRole('textbox', { name: 'Until' }).press('Shift+ArrowUp');
  await editor.getByRole('button', { name: 'Keep' }).click();
  await expect(
    page.getByRole('row', { name: /^3\.1\.0 .* Section Bells until 8\.1/ }),
  ).toBeVisible();
  const { markers } = independentMap((await api.handOff(id)).bytes);
  expect(markers).toContainEqual([2 * 1920, 'Bells']);
  expect(markers).toContainEqual([7 * 1920, 'Bells (end)']);
  expect(markers.filter(([, text]) => text.endsWith('(end)'))).toHaveLength(8);
});

test('a marker goes from the song into a track', async ({ page, api }) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  await page.goto(`/songs/${id}/timing`);
  await page.getByRole('button', { name: '+ Marker' }).click();
  const step = page.getByRole('region', { name: 'Step', exact: true });
  await step.getByRole('spinbutton', { name: 'Bar' }).fill('3');
  await step.getByRole('textbox', { name: 'Text' }).fill('Breathe');
  // It is the song's: no tracks are named.
  await expect(step).not.toContainText('On all tracks');
  await step.getByRole('button', { name: 'Do it' }).click();
  await page.getByRole('button', { name: 'Change marker at 3.1.0' }).click();
  const editor = page.getByRole('form', { name: 'Change marker Breathe' });
  await choose(editor.getByRole('combobox', { name: 'in', exact: true }), 'Voice');
  await editor.getByRole('button', { name: 'Keep' }).click();
  await expect(
    page.getByRole('row', { name: /^3\.1\.0 .* Marker Breathe in Voice/ }),
  ).toBeVisible();
  expect((await api.song(id)).timing.markers.find((m) => m.text === 'Breathe')!.track).toBe('t2');
});

test(
  'a marker is renamed, moved to the bar, made a cue point, and kept from the file',
  { tag: '@quick' },
  async ({ page, api }) => {
    const id = await emptySong(api);
    await api.step(id, 1, 'timing.marker', { bar: 3, tick: 7, text: 'Hit' });
    await page.goto(`/songs/${id}/timing`);
    await page.getByRole('button', { name: 'Change marker at 3.1.7' }).click();
    const editor = page.getByRole('form', { name: 'Change marker Hit' });
    await editor.getByRole('button', { name: 'To the bar' }).click();
    await editor.getByRole('textbox', { name: 'Name' }).fill('Door');
    await choose(editor.getByRole('combobox', { name: 'Kind' }), 'Cue point');
    await editor.getByRole('button', { name: 'Keep' }).click();
    await expect(page.getByRole('row', { name: /^3\.1\.0 .* Cue point Door/ })).toBeVisible();
    await page.getByRole('button', { name: 'Change cue point at 3.1.0' }).click();
    await page
      .getByRole('form', { name: 'Change cue point Door' })
      .getByRole('checkbox', { name: 'sent' })
      .uncheck();
    await page.getByRole('button', { name: 'Keep' }).click();
    await expect(page.getByRole('row', { name: /Cue point Door not sent/ })).toBeVisible();
    expect(new TextDecoder('latin1').decode((await api.handOff(id)).bytes)).not.toContain('Door');
  },
);

test('the page says what resolutions do to markers on frames; the tempo is tapped, bars are fitted, the click is saved', async ({
  page,
  api,
}) => {
  const id = await emptySong(api);
  await api.step(id, 1, 'timing.timecode', {});
  await api.step(id, 2, 'timing.resolution', { ppq: 960 });
  // Frames 7, 33 and 101 of 25 a second at 120 BPM and 960 PPQ: 537.6, 2534.4 and 7756.8 ticks.
  const frames = [7, 33, 101];
  await page.goto(`/songs/${id}/timing`);
  await page.getByTestId('list').setInputFiles({
    name: 'cut.edl',
    mimeType: 'text/plain',
    buffer: Buffer.from(
      `TITLE: X\n${frames.map((f, i) => `00${i + 1}  AX  V  C  00:00:00:00 00:00:01:00 01:00:0${Math.floor(f / 25)}:${String(f % 25).padStart(2, '0')} 01:00:09:00`).join('\n')}\n`,
    ),
  });
  await page.getByRole('button', { name: 'Bring them in' }).click();
  await expect(page.getByRole('row', { name: /01:00:04:01 Marker AX/ })).toBeVisible();
  const { markers } = independentMap((await api.handOff(id)).bytes);
  expect(markers.map(([tick]) => Math.round((tick / 1920) * 25))).toEqual(frames);
  await page.getByRole('button', { name: /^Change the resolution/ }).click();
  const table = page.getByRole('region', { name: 'What resolutions do to markers' });
  // By hand: 24 PPQ has a tick every 20.83 ms; frame 7 at 280 ms lies 9.17 ms from the 13th, frame 33 7.5
  // from the 63rd, frame 101 1.67 from the 194th; a tenth of a frame is 4 ms.
  await expect(table.getByRole('row', { name: /^24 9\.17 6\.11 2/ })).toBeVisible();
  for (const ppq of ['96', '480', '960'])
    await expect(table.getByRole('row', { name: new RegExp(`^${ppq} .* 0$`) })).toBeVisible();
  await table.getByRole('button', { name: '480', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Step', exact: true })).toContainText(
    /At most 0\.\d+ ms off, 0\.\d+ ms on average/,
  );
  await page.getByRole('button', { name: 'Not now' }).click();
  await page.getByRole('button', { name: '+ Tempo' }).click();
  const tap = page.getByRole('button', { name: 'Tap the tempo' });
  // Taps as the page is told of them: four, 400 ms apart by their own time stamps, however slow the machine
  // is. 150 BPM by hand.
  for (let i = 0; i < 4; i++) {
    await tap.evaluate(
      (button, at) => {
        const press = new PointerEvent('pointerdown', { bubbles: true });
        Object.defineProperty(press, 'timeStamp', { value: at });
        button.dispatchEvent(press);
      },
      1000 + i * 400,
    );
  }
  await expect(page.getByRole('spinbutton', { name: /^Tempo/ })).toHaveValue('150');
  await page.getByRole('button', { name: 'Not now' }).click();
  await page.getByRole('button', { name: /^Let bars last so long/ }).click();
  await page.getByRole('spinbutton', { name: 'Last bar', exact: true }).fill('16');
  await page.getByRole('spinbutton', { name: /^Last together/ }).fill('40');
  await page.getByRole('button', { name: 'Do it' }).click();
  // 16 bars of 4/4 in 40 s: 96 BPM.
  await expect(page.getByRole('row', { name: /Tempo 96 BPM/ })).toBeVisible();
  await choose(page.getByLabel('Count-in'), 'a bar');
  const { name, bytes } = await downloaded(page, () =>
    page.getByRole('button', { name: 'Save the click' }).click(),
  );
  expect(name).toBe('empty click.wav');
  const wave = new wavefile.WaveFile(bytes);
  // 17 bars of 2.5 s at 48 kHz.
  expect((wave.getSamples(false) as unknown as Float64Array).length).toBe(17 * 2.5 * 48_000);
});

test('a marker that stays at its time is told, and a lead-in of 3 s leaves it there', async ({
  page,
  api,
}) => {
  const { id } = await api.bring('ferry.mid', demo('The Lantern Ferry.mid'));
  const step = async (operation: string, settings: object): Promise<void> => {
    const { revision } = await api.song(id);
    expect((await api.step(id, revision, operation, settings)).status).toBe(200);
  };
  await step('timing.timecode', { address: '01:00:00:00', rate: '25' });
  // 80 BPM: a bar of four lasts 3 s.
  await step('timing.tempo', { bpm: 80 });
  await step('timing.marker', { bar: 9, text: 'Door opens' });
  await page.goto(`/songs/${id}/timing`);
  await page.getByRole('button', { name: 'Change marker at 9.1.0' }).click();
  const editor = page.getByRole('form', { name: 'Change marker Door opens' });
  await editor.getByRole('checkbox', { name: 'stays at its time' }).check();
  await editor.getByRole('button', { name: 'Keep' }).click();
  const row = page.getByRole('row', { name: /Door opens/ });
  // Eight bars of 3 s.
  await expect(row).toContainText('01:00:24:00');
  await expect(row).toContainText('stays at its time');
  expect((await api.song(id)).timing.markers.find((m) => m.text === 'Door opens')!.anchor).toBe(
    'time',
  );
  await step('timing.lead-in', { bars: 1 });
  expect((await api.song(id)).timing.startTimecode).toBe('00:59:57:00');
  await page.reload();
  await expect(row).toContainText('10.1.0');
  await expect(row).toContainText('01:00:24:00');
});
