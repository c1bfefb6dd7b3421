/**
 * What a file that is no MIDI file seems to be, with what to do about it. Signatures: each format's own
 * specification, from memory.
 */
interface Guess {
  readonly looksLike: string;
  readonly remedy: string;
}

const ascii = (bytes: Uint8Array, at: number, text: string): boolean =>
  [...text].every((c, i) => bytes[at + i] === c.charCodeAt(0));

const audio: Guess = {
  looksLike: 'an audio recording',
  remedy: 'Audio holds no notes to take; ask the sender for the MIDI file.',
};
const project =
  'Ask the sender to export a standard MIDI file (.mid) from the program it was made with.';

const signatures: readonly (readonly [at: number, text: string, guess: Guess])[] = [
  [
    0,
    'PK\x03\x04',
    { looksLike: 'a zip archive', remedy: 'Unpack it and bring in the MIDI files inside.' },
  ],
  [
    0,
    '\x1f\x8b',
    { looksLike: 'a gzip archive', remedy: 'Unpack it and bring in the MIDI file inside.' },
  ],
  [0, 'Rar!', { looksLike: 'an archive', remedy: 'Unpack it and bring in the MIDI files inside.' }],
  [
    0,
    '7z\xbc\xaf',
    { looksLike: 'an archive', remedy: 'Unpack it and bring in the MIDI files inside.' },
  ],
  [8, 'WAVE', audio],
  [8, 'AIFF', audio],
  [0, 'ID3', audio],
  [0, 'OggS', audio],
  [0, 'fLaC', audio],
  [0, '\xff\xfb', audio],
  [4, 'ftyp', { looksLike: 'an audio or video recording', remedy: audio.remedy }],
  [
    0,
    '%PDF',
    {
      looksLike: 'a PDF document',
      remedy: 'A printed score holds no MIDI; ask the sender for the MIDI file.',
    },
  ],
  [
    0,
    '\x89PNG',
    {
      looksLike: 'a picture',
      remedy: 'A picture holds no MIDI; ask the sender for the MIDI file.',
    },
  ],
  [
    0,
    '\xff\xd8\xff',
    {
      looksLike: 'a picture',
      remedy: 'A picture holds no MIDI; ask the sender for the MIDI file.',
    },
  ],
  [0, '<?xml', { looksLike: 'an XML document', remedy: project }],
  [
    257,
    'ustar',
    { looksLike: 'an archive', remedy: 'Unpack it and bring in the MIDI files inside.' },
  ],
  [
    0,
    'RIFF',
    { looksLike: 'a RIFF file of another kind', remedy: 'Ask the sender for the MIDI file.' },
  ],
  [
    0,
    'FORM',
    { looksLike: 'an IFF file of another kind', remedy: 'Ask the sender for the MIDI file.' },
  ],
  [
    0,
    '<',
    {
      looksLike: 'a web page or XML document',
      remedy: 'A download may have gone wrong: fetch the file itself again.',
    },
  ],
  [
    8,
    'sfbk',
    {
      looksLike: 'a sound bank',
      remedy: 'A sound bank holds sounds, not notes; bring in a MIDI file.',
    },
  ],
];

function isText(bytes: Uint8Array): boolean {
  const head = bytes.subarray(0, 4096);
  return head.every((b) => b === 9 || b === 10 || b === 13 || (b >= 0x20 && b !== 0x7f));
}

/** The kind of file that its first bytes name. */
export const signatureOf = (bytes: Uint8Array): Guess | undefined =>
  signatures.find(([at, text]) => ascii(bytes, at, text))?.[2];

export function looksLike(bytes: Uint8Array): Guess {
  const named = signatureOf(bytes);
  if (named) return named;
  if (bytes.every((b) => b === 0))
    return {
      looksLike: 'nothing but zero bytes',
      remedy: 'The transfer went wrong; ask the sender for the file again.',
    };
  if (isText(bytes))
    return {
      looksLike: 'a text',
      remedy: 'Bring in a standard MIDI file (.mid, .midi, .kar or .rmi).',
    };
  return { looksLike: 'data of another kind', remedy: project };
}
