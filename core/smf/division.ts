/** What a tick is: a part of a quarter note, or a part of a frame (SMF 1.0, header chunk). */
export type Division =
  | { readonly kind: 'ppq'; readonly ticksPerQuarter: number }
  | {
      readonly kind: 'smpte';
      readonly framesPerSecond: 24 | 25 | 29 | 30;
      readonly ticksPerFrame: number;
    };

/** The two header bytes as a division, or undefined where they say nothing usable. 0xE728 is 25 frames of 40 ticks. */
export function divisionOf(word: number): Division | undefined {
  if (word < 0x8000) return word === 0 ? undefined : { kind: 'ppq', ticksPerQuarter: word };
  const frames = 256 - (word >> 8);
  const ticksPerFrame = word & 0xff;
  if (ticksPerFrame === 0) return undefined;
  if (frames === 24 || frames === 25 || frames === 29 || frames === 30)
    return { kind: 'smpte', framesPerSecond: frames, ticksPerFrame };
  return undefined;
}

export function divisionWord(division: Division): number {
  if (division.kind === 'ppq') return division.ticksPerQuarter;
  return ((256 - division.framesPerSecond) << 8) | division.ticksPerFrame;
}

export function divisionText(division: Division): string {
  if (division.kind === 'ppq') return `${division.ticksPerQuarter} PPQ`;
  const frames = division.framesPerSecond === 29 ? '29.97' : String(division.framesPerSecond);
  return `${frames} frames a second × ${division.ticksPerFrame} ticks`;
}

/** Ticks in a second of a frame-based division; 29 stands for 30 drop-frame, 30000/1001 frames a second. */
export function ticksPerSecond(division: Extract<Division, { kind: 'smpte' }>): number {
  const rate = division.framesPerSecond === 29 ? 30000 / 1001 : division.framesPerSecond;
  return rate * division.ticksPerFrame;
}
