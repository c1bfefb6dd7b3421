/** What controllers start from at an instrument that was just switched on (General MIDI, RP-003; from memory). */
const startsAt: Readonly<Record<string, number>> = { 7: 100, 10: 64, 11: 127 };

/** Whether an instrument starts with a value, by its name in `channel.ts`. */
function isUsual(name: string, value: number): boolean {
  const [, number] = /^controller (\d+)$/.exec(name) ?? [];
  if (number !== undefined) return value === (startsAt[number] ?? 0);
  if (name === 'omni') return value === 124;
  if (name === 'poly') return value === 127;
  if (name === 'local') return value === 127;
  if (name === 'RPN 0 0 coarse') return value === 2;
  if (/^(RPN 0 [12]|NRPN .*) coarse$/.test(name)) return value === 64;
  return value === 0 || name === 'bank';
}

/**
 * The words of a channel without what it starts from: what was said in between is taken back to that, where
 * it cannot be unsaid.
 */
export const withoutUsual = (words: string): string =>
  words
    .split(', ')
    .filter((word) => {
      const at = word.lastIndexOf(' ');
      return !isUsual(word.slice(0, at), Number(word.slice(at + 1)));
    })
    .join(', ');
