const majors = ['C♭', 'G♭', 'D♭', 'A♭', 'E♭', 'B♭', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F♯', 'C♯'];
const minors = ['A♭', 'E♭', 'B♭', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F♯', 'C♯', 'G♯', 'D♯', 'A♯'];

/** Key signature as musicians name it: −1 sharps and minor → "D minor". */
export const keySignatureText = (sharps: number, minor: boolean): string =>
  `${(minor ? minors : majors)[sharps + 7] ?? '?'} ${minor ? 'minor' : 'major'}`;

/** A key signature as it is written, sharps and flats as signs or as # and b; undefined where it is none. */
export function parseKeySignature(text: string): { sharps: number; minor: boolean } | undefined {
  const found = /^\s*([A-G])([♯#♭b]?)\s*(major|minor)\s*$/i.exec(text);
  if (!found) return undefined;
  const name = found[1]!.toUpperCase() + found[2]!.replace('#', '♯').replace('b', '♭');
  const minor = found[3]!.toLowerCase() === 'minor';
  const place = (minor ? minors : majors).indexOf(name);
  return place === -1 ? undefined : { sharps: place - 7, minor };
}
