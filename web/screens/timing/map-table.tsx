import { useMemo, useState, type ReactNode } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useMaps } from '../../api/maps.ts';
import { temposOf } from '../../api/runs.ts';
import { Button } from '../../components/button.tsx';
import { count, duration } from '../../components/text.ts';
import { Choice } from '../../fields/choice.tsx';
import { useScope } from '../../state/scope.ts';
import { usePreparedStep } from '../../state/step.ts';
import { LongTable } from '../../tables/long-table.tsx';
import { knownSettings } from './known-settings.ts';
import { mapColumns } from './map-columns.tsx';
import { kindNames, mapRows, type MapRow, type RowKind } from './map-rows.ts';
import { MarkEditor } from './mark-editor.tsx';
import { TempoEditor } from './tempo-editor.tsx';

const addings = [
  ['Tempo', 'timing.tempo'],
  ['Meter', 'timing.meter'],
  ['Key', 'timing.key'],
  ['Marker', 'timing.marker'],
  ['Section', 'timing.section'],
] as const;
const rowHeight = 23;
const keyOf = (row: MapRow): string => `${row.kind} ${row.atTick} ${row.says}`;

/**
 * Every point of the map, in the order of the bars, below the line of tempos. Texts, which may be all words
 * of a song, are shown when they are asked for.
 */
export function MapTable({ song, children }: { song: SongView; children: ReactNode }) {
  const [kind, setKind] = useState<RowKind | 'all'>('all');
  const [edited, edit] = useState<string>();
  const bars = useScope((s) => s.bars);
  const maps = useMaps(song);
  const tempos = temposOf(
    maps.tempos,
    song.division.kind === 'ppq' ? song.division.ticksPerQuarter : undefined,
  );
  const rows = useMemo(() => numbered(mapRows(song, maps.meters, tempos)), [song, maps, tempos]);
  const shown = useMemo(
    () =>
      rows.filter(
        (r) =>
          (kind === 'all' ? r.kind !== 'text' : r.kind === kind) &&
          (!bars || (r.place.bar >= bars.from && r.place.bar <= bars.to)),
      ),
    [rows, kind, bars],
  );
  const columns = useMemo(() => mapColumns(song, maps, edit), [song, maps]);
  const editor = (row: MapRow & { key: string }): ReactNode | undefined => {
    if (row.key !== edited || (!row.mark && !row.handle)) return undefined;
    const done = (): void => edit(undefined);
    return row.mark ? (
      <MarkEditor song={song} meters={maps.meters} mark={row.mark} done={done} />
    ) : (
      <TempoEditor
        song={song}
        meters={maps.meters}
        tempos={tempos}
        handle={row.handle!}
        done={done}
      />
    );
  };
  return (
    <>
      <Head song={song} kind={kind} setKind={setKind} />
      {children}
      <div className="flex min-h-0 w-full max-w-[900px] flex-1 flex-col px-2">
        {shown.length > 0 && (
          <LongTable
            label="The map"
            columns={columns}
            rows={shown}
            keyOf={(row) => row.key}
            rowHeight={rowHeight}
            whole={editor}
            rowLook={(row) => (row.key === edited ? 'bg-sheet px-2' : '!border-transparent')}
          />
        )}
        {shown.length === 0 && (
          <p className="px-2 py-4 text-faint">{noneWords(song, rows.length)}</p>
        )}
      </div>
    </>
  );
}

/** Rows by keys of their own, also where two of them say the same. */
function numbered(rows: readonly MapRow[]): (MapRow & { key: string })[] {
  const seen = new Map<string, number>();
  return rows.map((row) => {
    const alike = keyOf(row);
    const n = seen.get(alike) ?? 0;
    seen.set(alike, n + 1);
    return { ...row, key: n === 0 ? alike : `${alike} ${n}` };
  });
}

/** The song in short, which rows are shown, and what can be added. */
function Head({
  song,
  kind,
  setKind,
}: {
  song: SongView;
  kind: RowKind | 'all';
  setKind: (kind: RowKind | 'all') => void;
}) {
  const bars = useScope((s) => s.bars);
  const { prepare } = usePreparedStep();
  const known = knownSettings(song, useMaps(song), bars);
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-1.5">
      <h2 className="text-[16px] font-semibold">Timing</h2>
      <span className="text-faint">
        {count(song.timing.bars, 'bar')}, {duration(song.timing.seconds)}, {song.divisionText}
      </span>
      <span className="ml-auto">
        <Choice
          label="Show"
          value={kind}
          options={[['all', 'everything'], ...(Object.entries(kindNames) as [RowKind, string][])]}
          set={setKind}
        />
      </span>
      {addings.map(([name, operation]) => (
        <Button
          key={name}
          onClick={() => prepare({ operation, settings: known[operation] ?? {}, bars: 'all' })}
        >
          + {name}
        </Button>
      ))}
    </div>
  );
}

const noneWords = (song: SongView, elsewhere: number): string =>
  elsewhere > 0
    ? 'None here.'
    : song.division.kind === 'smpte'
      ? 'The song states no meter and no markers.'
      : 'The song states no tempo and no meter: 120 BPM in 4/4 is what players take.';
