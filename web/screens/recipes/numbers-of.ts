/** The numbers of "2, 5–7", or undefined where it says something else. */
export function numbersOf(text: string): number[] | undefined {
  const numbers: number[] = [];
  for (const part of text.split(',')) {
    const [, from, to] = /^\s*(\d{1,5})\s*(?:[-–]\s*(\d{1,5})\s*)?$/.exec(part) ?? [];
    const [first, last] = [Number(from), Number(to ?? from)];
    if (!(first >= 1 && last >= first && last - first < 200)) return undefined;
    for (let n = first; n <= last; n++) numbers.push(n);
  }
  return [...new Set(numbers)].slice(0, 200);
}
