import { Pencil, X } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { positionText, type MeterMap } from '#core/timing/meter-map.ts';
import { addressAt } from '#core/timing/start-timecode.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import type { SongView } from '#contracts/songs.ts';
import { useMaps } from '../../api/maps.ts';
import { useStep } from '../../api/queries.ts';
import { temposOf, type Tempos } from '../../api/runs.ts';
import { Button } from '../../components/button.tsx';
import { count, duration } from '../../components/text.ts';
import { useScope } from '../../state/scope.ts';
import { usePreparedStep } from '../../state/step.ts';
import { knownSettings } from './known-settings.ts';
import { KindGlyph } from './kind-glyph.tsx';
import { MarkEditor } from './mark-editor.tsx';
import { TempoEditor } from './tempo-editor.tsx';
import { kindNames, mapRows, type MapRow, type RowKind } from './map-rows.ts';
import { Choice } from '../../fields/choice.tsx';

const addings = [['Tempo', 'timing.tempo'], ['Meter', 'timing.meter'], ['Key', 'timing.key'], ['Marker', 'timing.marker'], ['Section', 'timing.section']] as const;
/** Rows that are shown; the map of a shredded ramp is thinned first. */
const mostRows = 600;

/** Every point of the map, in the order of the bars, below the line of tempos. Texts, which may be all words of a song, are shown when they are asked for. */
export function MapTable({ song, children }: { song: SongView; children: ReactNode }) {
  const [kind, setKind] = useState<RowKind | 'all'>('all');
  const [edited, edit] = useState<string>();
  const bars = useScope((s) => s.bars);
  const { prepare } = usePreparedStep();
  const maps = useMaps(song);
  const { timecode } = song.timing;
  const known = knownSettings(song, maps, bars);
  const tempos = temposOf(maps.tempos, song.division.kind === 'ppq' ? song.division.ticksPerQuarter : undefined);
  const rows = useMemo(() => mapRows(song, maps.meters, tempos), [song, maps, tempos]);
  const shown = rows.filter((r) => (kind === 'all' ? r.kind !== 'text' : r.kind === kind) && (!bars || (r.place.bar >= bars.from && r.place.bar <= bars.to)));
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-1.5">
        <h2 className="text-[16px] font-semibold">Timing</h2>
        <span className="text-faint">
          {count(song.timing.bars, 'bar')}, {duration(song.timing.seconds)}, {song.divisionText}
        </span>
        <span className="ml-auto">
          <Choice label="Show" value={kind} options={[['all', 'everything'], ...(Object.entries(kindNames) as [RowKind, string][])]} set={setKind} />
        </span>
        {addings.map(([name, operation]) => (
          <Button key={name} onClick={() => prepare({ operation, settings: known[operation] ?? {}, bars: 'all' })}>
            + {name}
          </Button>
        ))}
      </div>
      {children}
      <div className="min-h-0 flex-1 overflow-auto px-4">
        <table className="w-full max-w-[860px] border-collapse">
          <thead className="sticky top-0 bg-paper text-left text-[11.5px] text-faint">
            <tr>
              {['Bar.beat.tick', 'Time', ...(timecode ? ['Timecode'] : []), 'What', 'Value', ''].map((h) => (
                <th key={h} scope="col" className="border-b border-line py-1 pr-4 font-normal">
                  {h || <span className="sr-only">Change</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.slice(0, mostRows).map((r) => {
              const key = `${r.kind} ${r.atTick} ${r.says}`;
              return <Row key={key} song={song} row={r} meters={maps.meters} tempos={tempos} time={duration(ticksToSeconds(maps.tempo, r.atTick), true)} address={timecode && addressAt(timecode, maps.tempo, r.atTick)} edited={edited === key} edit={(on) => edit(on ? key : undefined)} />;
            })}
          </tbody>
        </table>
        {shown.length === 0 && <p className="py-4 text-faint">{rows.length > 0 ? 'None here.' : song.division.kind === 'smpte' ? 'The song states no meter and no markers.' : 'The song states no tempo and no meter: 120 BPM in 4/4 is what players take.'}</p>}
        {shown.length > mostRows && <p className="py-2 text-ochre">and {(shown.length - mostRows).toLocaleString('en')} more; thin shredded changes, or choose bars on the strip.</p>}
      </div>
    </>
  );
}

interface RowProps {
  readonly song: SongView;
  readonly row: MapRow;
  readonly meters: MeterMap;
  readonly tempos: Tempos;
  readonly time: string;
  /** Timecode, where the song states one. */
  readonly address: string | undefined;
  readonly edited: boolean;
  readonly edit: (on: boolean) => void;
}

function Row({ song, row, meters, tempos, time, address, edited, edit }: RowProps) {
  const step = useStep(song.id, song.revision);
  const { prepare } = usePreparedStep();
  const { kind, place, says, beside, mark, handle } = row;
  const what = kindNames[kind].toLowerCase();
  if (edited && (mark || handle))
    return (
      <tr>
        <td colSpan={6} className="bg-sheet">
          {mark && <MarkEditor song={song} meters={meters} mark={mark} done={() => edit(false)} />}
          {handle && <TempoEditor song={song} meters={meters} tempos={tempos} handle={handle} done={() => edit(false)} />}
        </td>
      </tr>
    );
  return (
    <tr className="hover:bg-sheet">
      <td className="num py-0.5 pr-4">{positionText(place)}</td>
      <td className="num pr-4 text-faint">{time}</td>
      {address && <td className="num pr-4 text-faint">{address}</td>}
      <td className="pr-4 whitespace-nowrap text-faint">
        <KindGlyph kind={kind} />
        {kindNames[kind]}
      </td>
      <td className="pr-4">
        <span className={mark ? 'font-medium' : 'num'}>{says}</span>{' '}
        {beside && <span className="ml-1 text-[12px] text-faint">{beside}</span>}
      </td>
      <td className="text-right whitespace-nowrap">
        <button type="button" className="rounded p-1 hover:bg-paper" aria-label={`Change ${what} at ${positionText(place)}`} onClick={() => (row.edit ? prepare(row.edit) : edit(true))}>
          <Pencil size={13} aria-hidden />
        </button>
        <button type="button" className="rounded p-1 text-rust hover:bg-paper" aria-label={`Take out ${what} at ${positionText(place)}`} disabled={step.isPending} onClick={() => step.mutate(row.remove)}>
          <X size={13} aria-hidden />
        </button>
      </td>
    </tr>
  );
}
