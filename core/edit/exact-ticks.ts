/** Places are held against each other to a millionth of a tick: halves stay halves whatever sums made them. */
export const exactTicks = (ticks: number): number => Math.round(ticks * 1e6) / 1e6;
