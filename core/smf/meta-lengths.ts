import { meta } from './events.ts';

/** Lengths that SMF 1.0 gives to meta events with a fixed one; a sequence number may also have none. */
const fixedLengths: Readonly<Record<number, number>> = {
  [meta.channelPrefix]: 1,
  [meta.port]: 1,
  [meta.endOfTrack]: 0,
  [meta.tempo]: 3,
  [meta.smpteOffset]: 5,
  [meta.timeSignature]: 4,
  [meta.keySignature]: 2,
};

/** The length a meta event of this type should have, where this one is another. */
export function wrongLength(type: number, length: number): number | undefined {
  if (type === meta.sequenceNumber) return length === 0 || length === 2 ? undefined : 2;
  const usual = fixedLengths[type];
  return usual === length ? undefined : usual;
}

/**
 * What is taken for bytes that are missing: a click on every quarter of 24 clocks, eight 32nds a quarter;
 * major; zero frames.
 */
const usualRest: Readonly<Record<number, { least: number; rest: readonly number[] }>> = {
  [meta.timeSignature]: { least: 2, rest: [4, 2, 24, 8] },
  [meta.keySignature]: { least: 1, rest: [0, 0] },
  [meta.smpteOffset]: { least: 4, rest: [0, 0, 0, 0, 0] },
};

/**
 * The payload at its right length: what is too long is cut, what is too short filled up where enough is
 * there to be understood; undefined where it says nothing.
 */
export function mendedPayload(type: number, payload: Uint8Array): Uint8Array | undefined {
  const right = wrongLength(type, payload.length);
  if (right === undefined) return payload;
  if (payload.length > right) return payload.subarray(0, right);
  const known = usualRest[type];
  if (!known || payload.length < known.least) return undefined;
  return Uint8Array.from(known.rest, (usual, i) => payload[i] ?? usual);
}
