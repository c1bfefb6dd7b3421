import { decodeAs, decodeText, encodeText, type TextEncodingName } from './text.ts';

/** Bytes by symbol for each encoding, made from its decoder when they are first wanted. */
const tables = new Map<TextEncodingName, ReadonlyMap<string, readonly number[]>>();

/**
 * First bytes of pairs. Of Shift-JIS those are left out under which only symbols stand that have a place
 * elsewhere (WHATWG Encoding, Shift_JIS encoder).
 */
const pairs: Partial<
  Record<
    TextEncodingName,
    {
      leads: readonly (readonly [number, number])[];
      trails: readonly (readonly [number, number])[];
    }
  >
> = {
  'Shift-JIS': {
    leads: [
      [0x81, 0x9f],
      [0xe0, 0xec],
      [0xfa, 0xfc],
    ],
    trails: [
      [0x40, 0x7e],
      [0x80, 0xfc],
    ],
  },
  'EUC-JP': {
    leads: [
      [0x8e, 0x8e],
      [0xa1, 0xfe],
    ],
    trails: [[0xa1, 0xfe]],
  },
};

function tableOf(encoding: TextEncodingName): ReadonlyMap<string, readonly number[]> {
  const known = tables.get(encoding);
  if (known) return known;
  const table = new Map<string, readonly number[]>();
  const learn = (...bytes: number[]): void => {
    const symbol = decodeAs(Uint8Array.from(bytes), encoding);
    if (
      symbol !== undefined &&
      [...symbol].length === 1 &&
      !isControl.test(symbol) &&
      !table.has(symbol)
    )
      table.set(symbol, bytes);
  };
  for (let b = 0; b < 256; b++) learn(b);
  const { leads, trails } = pairs[encoding] ?? { leads: [], trails: [] };
  for (const [from, to] of leads)
    for (let lead = from; lead <= to; lead++)
      for (const [low, high] of trails)
        for (let trail = low; trail <= high; trail++) learn(lead, trail);
  tables.set(encoding, table);
  return table;
}

/** Control characters above ASCII, private symbols and the mark of what cannot be read are no text. */
const isControl = /[\u0080-\u009f\ue000-\uf8ff\ufffd]/;

/** Symbols that Latin-1 has no place for though its superset has. */
const beyondLatin1 = /[\u0100-\u{10ffff}]/u;

/** A text's bytes in an encoding; undefined where it cannot hold the text. */
export function encodeAs(text: string, encoding: TextEncodingName): Uint8Array | undefined {
  if (encoding === 'UTF-8') return encodeText(text);
  if (encoding === 'Latin-1' && beyondLatin1.test(text)) return undefined;
  const table = tableOf(encoding);
  const bytes: number[] = [];
  for (const symbol of text) {
    const own = table.get(symbol);
    if (!own) return undefined;
    bytes.push(...own);
  }
  return Uint8Array.from(bytes);
}

/**
 * Bytes of a text for a song whose texts are in `encoding`: in that where it can hold the text and the text
 * reads back from it, else in UTF-8.
 */
export function encodeFor(text: string, encoding: TextEncodingName): Uint8Array {
  const own = encodeAs(text, encoding);
  return own && decodeText(own, encoding) === text ? own : encodeText(text);
}
