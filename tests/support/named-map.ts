/** An SMF of one empty track, 96 PPQ: nothing but its end. */
export const emptyFile = Uint8Array.from([
  0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 4, 0,
  0xff, 0x2f, 0,
]);

/** A map with everything in it and no notes, as steps: operation and settings. */
export const namedMapSteps: readonly (readonly [string, Record<string, unknown>])[] = [
  ['timing.tempo', { bpm: 96 }],
  ['timing.meter', { numerator: 4, denominator: '4' }],
  ['timing.length', { bars: 40 }],
  ['timing.tempo', { bar: 5, bpm: 132 }],
  ['timing.meter', { bar: 9, numerator: 9, denominator: '8' }],
  ['timing.tempo', { bar: 9, bpm: 84, of: 'dotted quarter' }],
  ['timing.meter', { bar: 12, numerator: 7, denominator: '8' }],
  ['timing.tempo', { bar: 12, beat: 2, bpm: 66 }],
  ['timing.meter', { bar: 15, numerator: 3, denominator: '4' }],
  ['timing.marker', { bar: 3, text: 'Verse' }],
  ['timing.marker', { bar: 10, text: 'Bridge' }],
  ['timing.section', { name: 'Rise', bar: 4, lastBar: 10 }],
  ['timing.section', { name: 'Turn', bar: 8, lastBar: 16 }],
  ['timing.length', { bars: 18 }],
];

// Ticks by hand: bars of 4/4 are 384 ticks, of 9/8 432, of 7/8 336, of 3/4 288.
const bar9 = 8 * 384;
const bar12 = bar9 + 3 * 432;
const bar15 = bar12 + 3 * 336;

/** What an independent reader must find in its file; 84 dotted quarters are 126 quarters a minute. */
export const namedMap = {
  tempos: [
    [0, 625_000],
    [4 * 384, 454_545],
    [bar9, 476_190],
    [bar12 + 48, 909_091],
  ],
  meters: [
    [0, 4, 4],
    [bar9, 9, 8],
    [bar12, 7, 8],
    [bar15, 3, 4],
  ],
  markers: [
    [2 * 384, 'Verse'],
    [3 * 384, 'Rise'],
    [7 * 384, 'Turn'],
    [bar9 + 432, 'Bridge'],
    [bar9 + 2 * 432, 'Rise (end)'],
    [bar15 + 2 * 288, 'Turn (end)'],
  ],
  end: bar15 + 4 * 288,
};

export const namedSections = [
  { name: 'Rise', from: '4.1.0', to: '11.1.0' },
  { name: 'Turn', from: '8.1.0', to: '17.1.0' },
];
