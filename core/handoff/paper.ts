import { count, extentText, proofCover, proofText, slipText, type Slip } from './slip.ts';

/** The paper of a whole handoff: the slips of its files, and what is said of all of them. */
export interface Paper {
  readonly song: string;
  readonly revision: number;
  /** ISO 8601. */
  readonly at: string;
  readonly notes: readonly string[];
  readonly files: readonly Slip[];
}

/** A line that any tool checks a file by: its hash, two blanks, its name. */
export const checkLine = ({ sha256, file }: Pick<Slip, 'sha256' | 'file'>): string =>
  `${sha256}  ${file}`;

/** The paper as text. That of one file is its slip; of several, each in few lines. */
export function paperText(paper: Paper): string {
  const [only, ...others] = paper.files;
  const check = [
    'To check a file at the other end, compare its SHA-256 with any tool:',
    ...paper.files.map((f) => `  ${checkLine(f)}`),
    '',
  ];
  if (only && others.length === 0) return [slipText(only), ...check].join('\n');
  return [
    `Slip for ${count(paper.files.length, 'file')}`,
    '',
    `Song      ${paper.song}, revision ${paper.revision}`,
    `Made      ${paper.at}`,
    `Bytes     ${totalBytes(paper).toLocaleString('en')}`,
    '',
    'Files',
    ...paper.files.flatMap(fileLines),
    '',
    'Left out or changed',
    ...(paper.notes.length === 0 ? ['  nothing beside what is said of a file'] : []),
    ...paper.notes.map((note) => `  ${note}`),
    '',
    'Proof',
    `  ${allProven(paper)}`,
    ...proofCover.map((line) => `  ${line}`),
    '',
    ...check,
  ].join('\n');
}

export const totalBytes = ({ files }: Paper): number => files.reduce((sum, f) => sum + f.bytes, 0);

/** One sentence for all files. */
export function allProven({ files }: Paper): string {
  const events = files.reduce((sum, f) => sum + f.proof.events, 0);
  const wrong = files.filter((f) => !f.proof.holds);
  if (wrong.length > 0) return wrong.map((f) => `${f.file}: ${proofText(f)}`).join(' ');
  const held = `${count(files.length, 'file')}, ${count(events, 'event')}`;
  return `Every file was read back and held against the song: ${held}, each the one meant, at its tick and in its order.`;
}

function fileLines(slip: Slip): string[] {
  const notes = slip.tracks.reduce((sum, t) => sum + t.notes, 0);
  const length = slip.extent ? `, ${extentText(slip.extent)}` : '';
  return [
    `  ${slip.file}: ${slip.bytes.toLocaleString('en')} bytes, ${count(slip.tracks.length, 'track')}, ${count(notes, 'note')}${length}`,
    ...(slip.copyright ?? []).map((notice) => `      Copyright: ${notice}`),
    ...(slip.sources ?? []).map((said) => `      Source: ${said}`),
    ...slip.notes.map((note) => `      ${note}`),
  ];
}
