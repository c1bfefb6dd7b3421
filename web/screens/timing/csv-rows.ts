import Papa from 'papaparse';

/** A line of a list: where it stands in the file, and its cells by what their columns are about. */
export interface CsvRow {
  readonly line: number;
  readonly cells: Readonly<Partial<Record<Column, string>>>;
}

/** What columns may be called, in any case. */
const names = {
  kind: ['kind', 'type'],
  position: ['position', 'bar', 'start', 'from'],
  seconds: ['seconds', 'time'],
  timecode: ['timecode', 'tc'],
  value: ['value', 'text', 'name', 'marker', 'label', 'description', 'comment'],
  end: ['end', 'until'],
} as const;
export type Column = keyof typeof names;

/**
 * Comma-separated values (RFC 4180; also semicolons or tabs) with a first line that names the columns. Lines are counted as an
 * editor counts them: empty ones too, and those inside quoted cells.
 */
export function csvRows(text: string): CsvRow[] | 'no columns' {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { delimiter: delimiterOf(text) });
  const empty = (row: readonly string[]): boolean => row.every((cell) => cell.trim() === '');
  const head = data.findIndex((row) => !empty(row));
  const columns = (data[head] ?? []).map((cell) => columnOf(cell));
  if (!columns.some((c) => c === 'position' || c === 'seconds' || c === 'timecode')) return 'no columns';
  const rows: CsvRow[] = [];
  let line = 1;
  data.forEach((row, i) => {
    if (i > head && !empty(row)) rows.push({ line, cells: cellsOf(columns, row) });
    line += 1 + row.reduce((n, cell) => n + (cell.match(/\r\n|\r|\n/g)?.length ?? 0), 0);
  });
  return rows;
}

/** What the first line that is not empty parts its columns with most often. */
function delimiterOf(text: string): string {
  const head = text.split(/\r\n|\r|\n/).find((line) => line.trim() !== '') ?? '';
  return [',', ';', '\t'].reduce((best, mark) => (head.split(mark).length > head.split(best).length ? mark : best));
}

function columnOf(head: string): Column | undefined {
  const name = head.trim().toLowerCase();
  return (Object.keys(names) as Column[]).find((column) => (names[column] as readonly string[]).includes(name));
}

/** Of several columns of one meaning the first that says something. */
function cellsOf(columns: readonly (Column | undefined)[], row: readonly string[]): CsvRow['cells'] {
  const cells: Partial<Record<Column, string>> = {};
  columns.forEach((column, i) => {
    const cell = (row[i] ?? '').trim();
    if (column && cell !== '' && cells[column] === undefined) cells[column] = cell;
  });
  return cells;
}

/** Seconds as a number, or as `m:ss` or `h:mm:ss`, with parts of a second behind a point. */
export function parseSeconds(text: string): number | undefined {
  const found = /^(?:(?:(\d{1,3}):)?(\d{1,5}):)?(\d{1,9}(?:\.\d*)?)$/.exec(text.trim());
  if (!found) return undefined;
  const [h = '0', m = '0', s] = found.slice(1);
  return (Number(h) * 60 + Number(m)) * 60 + Number(s);
}
