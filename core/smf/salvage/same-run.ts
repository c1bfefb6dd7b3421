/** How many bytes from two places on are the same, forwards or backwards; `most` are looked at. */
export function sameRun(
  bytes: Uint8Array,
  a: number,
  b: number,
  step: 1 | -1,
  most: number,
): number {
  let n = 0;
  while (
    n < most &&
    bytes[a + n * step] !== undefined &&
    bytes[a + n * step] === bytes[b + n * step]
  )
    n++;
  return n;
}
