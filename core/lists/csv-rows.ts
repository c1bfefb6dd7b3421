import Papa from 'papaparse';

/** A line of a list: where it stands in the file, and its cells by what their columns are about. */
export interface CsvRow {
  readonly line: number;
  readonly cells: Readonly<Partial<Record<Column, string>>>;
}

/** What columns may be called, in any case. */
const names = {
  kind: ['kind', 'type'],
  position: ['position', 'bar', 'bars', 'measure', 'start', 'from'],
  beat: ['beat', 'beats'],
  tick: ['tick', 'ticks'],
  seconds: ['seconds', 'time'],
  timecode: ['timecode', 'tc'],
  value: ['value', 'text', 'name', 'marker', 'label', 'description', 'comment'],
  end: ['end', 'until'],
} as const;
export type Column = keyof typeof names;

/**
 * Comma-separated values (RFC 4180; also semicolons or tabs, or what a line such as `sep=;` before all
 * others says) with a first line that names the columns. Lines are counted as an editor counts them: empty
 * ones too, and those inside quoted cells.
 */
export function csvRows(given: string): CsvRow[] | 'no columns' {
  const whole = given.replace(/^\uFEFF/, '');
  const said = /^sep=(.)(?=\r|\n)/i.exec(whole);
  // An empty line in its place, so that lines keep their numbers.
  const text = said ? whole.slice(said[0].length) : whole;
  const { data } = Papa.parse<string[]>(text, { delimiter: said?.[1] ?? delimiterOf(text) });
  const empty = (row: readonly string[]): boolean => row.every((cell) => cell.trim() === '');
  const head = data.findIndex((row) => !empty(row));
  const columns = (data[head] ?? []).map((cell) => columnOf(cell));
  if (!columns.some((c) => c === 'position' || c === 'tick' || c === 'seconds' || c === 'timecode'))
    return 'no columns';
  const rows: CsvRow[] = [];
  let line = 1;
  data.forEach((row, i) => {
    if (i > head && !empty(row)) rows.push({ line, cells: cellsOf(columns, row) });
    line += 1 + row.reduce((n, cell) => n + (cell.match(/\r\n|\r|\n/g)?.length ?? 0), 0);
  });
  return rows;
}

/** Columns that some call by these names count bars, and others seconds. */
const eitherWay = /^(start|from)$/i;

/**
 * A place of a list that may be a bar and a beat as well as a number of seconds, as 12.5 under “start” may;
 * undefined where its column or another place of it tells.
 */
export function undecidedPlace(given: string): string | undefined {
  const rows = csvRows(given);
  if (
    rows === 'no columns' ||
    rows.some(
      ({ cells }) =>
        cells.beat !== undefined ||
        cells.seconds !== undefined ||
        cells.timecode !== undefined ||
        cells.kind !== undefined,
    )
  )
    return undefined;
  if (
    !given
      .split(/\r\n|\r|\n/)
      .slice(0, 5)
      .some((line) =>
        line.split(/[,;\t]/).some((cell) => eitherWay.test(cell.trim().replaceAll('"', ''))),
      )
  )
    return undefined;
  const places = rows.flatMap(({ cells }) =>
    cells.position === undefined ? [] : [cells.position],
  );
  if (!places.every((p) => /^\d+([.,]\d+)?$/.test(p))) return undefined;
  return places.find((p) => /[.,]/.test(p)) ?? places.find((p) => Number(p) === 0);
}

/** What the first line that is not empty parts its columns with most often. */
function delimiterOf(text: string): string {
  const head = text.split(/\r\n|\r|\n/).find((line) => line.trim() !== '') ?? '';
  return [',', ';', '\t'].reduce((best, mark) =>
    head.split(mark).length > head.split(best).length ? mark : best,
  );
}

function columnOf(head: string): Column | undefined {
  const name = head.trim().toLowerCase();
  return (Object.keys(names) as Column[]).find((column) =>
    (names[column] as readonly string[]).includes(name),
  );
}

/** Of several columns of one meaning the first that says something. */
function cellsOf(
  columns: readonly (Column | undefined)[],
  row: readonly string[],
): CsvRow['cells'] {
  const cells: Partial<Record<Column, string>> = {};
  columns.forEach((column, i) => {
    const cell = row[i] ?? '';
    // Texts keep their blanks and lines.
    if (column && cell.trim() !== '' && cells[column] === undefined)
      cells[column] = column === 'value' ? cell : cell.trim();
  });
  const { position, beat, tick, ...rest } = cells;
  if (position === undefined || (beat === undefined && tick === undefined)) return cells;
  // Bar, beat and tick in columns of their own are one place.
  return {
    ...rest,
    position: [position, beat ?? '1', ...(tick === undefined ? [] : [tick])].join('.'),
  };
}

/** Seconds as a number, or as `m:ss` or `h:mm:ss`, with parts of a second behind a point or a comma. */
export function parseSeconds(text: string): number | undefined {
  const found = /^(?:(?:(\d{1,3}):)?(\d{1,5}):)?(\d{1,9}(?:\.\d*)?)$/.exec(
    text.trim().replace(',', '.'),
  );
  if (!found) return undefined;
  const [h = '0', m = '0', s] = found.slice(1);
  return (Number(h) * 60 + Number(m)) * 60 + Number(s);
}

/** Beats a minute as a number, with a point or a comma, and BPM behind it or not. */
export function parseBpm(text: string): number | undefined {
  const found = /^(\d{1,9}(?:[.,]\d*)?)\s*(?:bpm)?$/i.exec(text.trim());
  return found ? Number(found[1]!.replace(',', '.')) : undefined;
}
