/**
 * What controllers stand at when an instrument is switched on (General MIDI, RP-003 and its
 * recommendations; from memory). Those that are not here have no value that everybody agrees on.
 */
const usual: Readonly<Record<number, number>> = {
  1: 0,
  7: 100,
  10: 64,
  11: 127,
  64: 0,
  65: 0,
  66: 0,
  67: 0,
};

export const usualValue = (controller: number): number | undefined => usual[controller];
