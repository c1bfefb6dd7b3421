/**
 * Reads the sequencer-specific events that this program writes: 7D (uses without a maker, MIDI 1.0), then
 * words anybody can read in a dump.
 */
const startsWith = (payload: Uint8Array, word: string): boolean =>
  payload[0] === 0x7d &&
  payload.length > word.length &&
  Array.from(word).every((letter, n) => payload[n + 1] === letter.charCodeAt(0));

/** A mark that is kept in the song and not sent: its meta type and the bytes of its text. */
export function readKeptMark(payload: Uint8Array): { type: number; text: Uint8Array } | undefined {
  const word = 'satchel stays ';
  if (!startsWith(payload, word) || payload.length < word.length + 2) return undefined;
  return { type: payload[word.length + 1]!, text: payload.subarray(word.length + 2) };
}

/** What says that the mark behind it belongs to time: it is kept in the song and not sent. */
export const isAnchor = (payload: Uint8Array): boolean => startsWith(payload, 'satchel timed ');

/** An event that says nothing, between two that lie further apart than 28 bits can say. */
export const isBridge = (payload: Uint8Array): boolean =>
  payload.length === 14 && startsWith(payload, 'satchel waits');

/** Frame rate and address of the timecode that an event states for its tick. */
export function statedTimecode(payload: Uint8Array): { rate: string; address: string } | undefined {
  const word = 'satchel timecode ';
  if (!startsWith(payload, word)) return undefined;
  const [rate, address] = String.fromCharCode(...payload.subarray(word.length + 1, 80)).split('|');
  return rate && address ? { rate, address } : undefined;
}
