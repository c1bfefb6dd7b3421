import { cutText } from '../smf/text.ts';
import { leftOut } from './left-out.ts';
import { allProven, checkLine, totalBytes, type Paper } from './paper.ts';
import { count, durationText, extentText, proofCover, proofText, type Slip } from './slip.ts';

/** What one sheet has room for, files or tracks, and sentences; the slip as text has all. */
const mostTracks = 34;
const mostFiles = 20;
const mostNotes = 10;
const longestNote = 160;

/** The paper as a page that prints on one sheet, fetches nothing and runs nothing. */
export function paperHtml(paper: Paper): string {
  const only = paper.files.length === 1 ? paper.files[0] : undefined;
  const rows = only ? only.tracks.length : paper.files.length;
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>${escapedHtml(`Slip for ${only ? only.file : count(paper.files.length, 'file')}`)}</title>
<style>${styleFor(rows)}</style>
</head>
<body>
<h1>${escapedHtml(only ? only.file : `${paper.song}: ${count(paper.files.length, 'file')}`)}</h1>
<p>${headWords(paper, only).map(escapedHtml).join('; ')}</p>
<h2>${only ? 'Tracks' : 'Files'}</h2>
${only ? tracksTable(only) : filesTable(paper.files)}
<h2>Left out or changed</h2>
${notesOf(paper, only)}
<h2>Proof</h2>
<p>${[only ? proofText(only) : allProven(paper), ...proofCover].map(escapedHtml).join('<br>')}</p>
${only ? checkOf(only) : ''}
</body>
</html>
`;
}

/** Letters get smaller with the rows, so that all stands on one sheet. */
const styleFor = (rows: number): string => `
@page { size: A4; margin: 12mm }
body { font: ${rows <= 20 ? 12 : 10}px/1.3 system-ui, sans-serif; color: #2a2420; max-width: 186mm }
body { margin: 0 auto; padding: 0 1em }
h1 { font-size: 1.5em; margin: 0 0 .3em }
h2 { font-size: 1em; margin: .8em 0 .2em; border-bottom: 1px solid #b9aa94 }
p { margin: .1em 0 }
table { border-collapse: collapse; width: 100% }
td, th { text-align: left; padding: 0 .6em 0 0; vertical-align: top; border-bottom: 1px solid #e6dccb }
th { font-weight: 500; color: #6d6154 }
.files :is(td, th):nth-child(n+2), .tracks :is(td, th):nth-child(n+3) {
  text-align: right; font-variant-numeric: tabular-nums
}
td:first-child, td:nth-child(2) { max-width: 92mm; overflow: hidden; text-overflow: ellipsis; white-space: nowrap }
code { font: 8px ui-monospace, monospace }
`;

function headWords(paper: Paper, only: Slip | undefined): string[] {
  const bytes = `${totalBytes(paper).toLocaleString('en')} bytes`;
  const made = `${paper.song}, revision ${paper.revision}, made ${paper.at}`;
  if (!only) return [made, bytes];
  const length = only.extent ? [extentText(only.extent)] : [];
  return [made, bytes, `format ${only.format}, ${only.division}`, ...length];
}

const row = (cells: readonly (string | number)[], kind: 'td' | 'th' = 'td'): string =>
  `<tr>${cells
    .map((cell) => `<${kind}>${escapedHtml(cell.toLocaleString('en'))}</${kind}>`)
    .join('')}</tr>`;

const table = (
  kind: 'files' | 'tracks',
  head: readonly string[],
  rows: readonly string[],
  more: number,
): string =>
  `<table class="${kind}">${row(head, 'th')}\n${rows.join('\n')}\n</table>${
    more > 0 ? `<p>and ${more.toLocaleString('en')} more, which the slip as text names</p>` : ''
  }`;

const tracksTable = ({ tracks }: Slip): string =>
  table(
    'tracks',
    ['#', 'Track', 'Channel', 'Notes', 'Events'],
    tracks
      .slice(0, mostTracks)
      .map((t, i) =>
        row([i + 1, t.name, t.channels.map((c) => c + 1).join(', '), t.notes, t.events]),
      ),
    tracks.length - mostTracks,
  );

const filesTable = (files: readonly Slip[]): string =>
  table(
    'files',
    ['File and SHA-256', 'Tracks', 'Notes', 'Bars', 'Time', 'Bytes'],
    files.slice(0, mostFiles).map((f) => {
      const notes = f.tracks.reduce((sum, t) => sum + t.notes, 0);
      const [bars, time] = f.extent ? [f.extent.bars, durationText(f.extent.seconds)] : ['', ''];
      const cells = row([f.file, f.tracks.length, notes, bars, time, f.bytes]);
      return cells.replace('</td>', `<br><code>${f.sha256}</code></td>`);
    }),
    files.length - mostFiles,
  );

function notesOf(paper: Paper, only: Slip | undefined): string {
  const removed = (only?.removed ?? []).map(
    (t) => `${t.name}, ${count(t.events, 'event')}: removed.`,
  );
  const all = leftOut(paper.notes, paper.files).map(({ text, files }) =>
    files < paper.files.length ? `${text} (${count(files, 'file')})` : text,
  );
  const notes = [...removed, ...all];
  if (notes.length === 0) return '<p>Nothing.</p>';
  const shown = notes.slice(0, mostNotes).map((note) => {
    const cut = cutText(note, longestNote);
    return `<p>${escapedHtml(cut)}${cut === note ? '' : ' …'}</p>`;
  });
  const more = notes.length - mostNotes;
  if (more > 0) shown.push(`<p>and ${more.toLocaleString('en')} more on the slip as text</p>`);
  return shown.join('\n');
}

const checkOf = (slip: Slip): string =>
  `<h2>To check it at the other end: its SHA-256, by any tool</h2>
<p><code>${escapedHtml(checkLine(slip))}</code></p>`;

const marks: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};
export const escapedHtml = (text: string): string => text.replace(/[&<>"']/g, (m) => marks[m]!);
