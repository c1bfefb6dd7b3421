import { expect, it } from 'vitest';
import { shownChords } from './shown-chords.ts';

it('what is written is shown, and before, behind and between it what is told (by hand)', () => {
  const told = [
    { atTick: 0, toTick: 100, name: 'Em' },
    { atTick: 100, toTick: 350, name: 'Am' },
    { atTick: 350, toTick: 500, name: 'D' },
    { atTick: 600, toTick: 700, name: 'B7' },
  ];
  const said = (written: Parameters<typeof shownChords>[0]) =>
    shownChords(written, told).map((c) => `${c.text}@${c.atTick}`);
  expect(said([])).toEqual(['Em@0', 'Am@100', 'D@350', 'B7@600']);
  expect(
    said([
      { atTick: 200, text: 'C' },
      { atTick: 300, text: 'end' },
      { atTick: 400, text: 'F' },
    ]),
  ).toEqual(['Em@0', 'Am@100', 'C@200', 'Am@300', 'D@350', 'F@400']);
});
