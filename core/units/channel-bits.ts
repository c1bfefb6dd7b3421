/** Channels (from 0) of which the bit is set, in ascending order. */
export function channelsIn(bits: number): number[] {
  const channels: number[] = [];
  for (let c = 0; bits >> c > 0; c++) if (bits & (1 << c)) channels.push(c);
  return channels;
}

/** Bits of all sixteen channels. */
export const allChannels = 0xffff;
