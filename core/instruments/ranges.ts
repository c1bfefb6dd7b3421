/**
 * Lowest and highest key that an instrument sounds, by General MIDI program from 0 (orchestration manuals, from memory; as far as good players
 * go). A program stands for its family: the alto flute, the bass clarinet, the double bassoon and the bass trombone have none of their own, so it
 * goes as low as they do. Programs that are not here have no bound that everybody would agree on.
 */
const ranges: Readonly<Record<number, readonly [lowest: number, highest: number]>> = {
  0: [21, 108],
  1: [21, 108],
  2: [21, 108],
  3: [21, 108],
  6: [29, 89],
  8: [60, 108],
  9: [79, 108],
  11: [53, 89],
  12: [36, 96],
  13: [65, 108],
  14: [60, 77],
  22: [60, 96],
  24: [40, 84],
  25: [40, 84],
  26: [40, 88],
  27: [40, 88],
  28: [40, 88],
  29: [40, 88],
  30: [40, 88],
  32: [24, 67],
  33: [23, 67],
  34: [23, 67],
  35: [23, 67],
  40: [55, 105],
  41: [48, 93],
  42: [36, 84],
  43: [24, 69],
  46: [23, 104],
  47: [36, 60],
  56: [52, 87],
  57: [28, 77],
  58: [24, 65],
  59: [52, 87],
  60: [31, 79],
  64: [56, 91],
  65: [49, 86],
  66: [44, 81],
  67: [36, 73],
  68: [58, 93],
  69: [52, 84],
  70: [22, 77],
  71: [34, 96],
  72: [74, 108],
  73: [55, 98],
};

export const rangeOf = (program: number): readonly [lowest: number, highest: number] | undefined =>
  ranges[program];
