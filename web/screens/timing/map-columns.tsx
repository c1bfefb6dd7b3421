import { Pencil, X } from 'lucide-react';
import type { SongView } from '#contracts/songs.ts';
import type { Maps } from '#core/song/maps.ts';
import { positionText } from '#core/timing/meter-map.ts';
import { addressAt } from '#core/timing/start-timecode.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { useStep } from '../../api/queries.ts';
import { duration } from '../../components/text.ts';
import { usePreparedStep } from '../../state/step.ts';
import type { Column } from '../../tables/use-rows.tsx';
import { KindGlyph } from './kind-glyph.tsx';
import { kindNames, type MapRow } from './map-rows.ts';

type Keyed = MapRow & { readonly key: string };

/**
 * What the table says of a point of the map: where it stands in every way the song has, what it is, and
 * what can be done to it.
 */
export function mapColumns(
  song: SongView,
  { tempo }: Maps,
  edit: (key: string) => void,
): Column<Keyed>[] {
  const { timecode } = song.timing;
  return [
    {
      id: 'place',
      heading: 'Bar.beat.tick',
      width: '104px',
      cell: (row) => <span className="num">{positionText(row.place)}</span>,
    },
    {
      id: 'time',
      heading: 'Time',
      width: '94px',
      cell: (row) => (
        <span className="num text-faint">{duration(ticksToSeconds(tempo, row.atTick), true)}</span>
      ),
    },
    ...(timecode
      ? [
          {
            id: 'timecode',
            heading: 'Timecode',
            width: '122px',
            cell: (row: Keyed) => (
              <span className="num text-faint">{addressAt(timecode, tempo, row.atTick)}</span>
            ),
          },
        ]
      : []),
    { id: 'what', heading: 'What', width: '150px', cell: (row) => <What row={row} /> },
    { id: 'value', heading: 'Value', width: 'minmax(0,1fr)', cell: (row) => <Value row={row} /> },
    {
      id: 'change',
      heading: 'Change',
      hidden: true,
      width: '64px',
      align: 'right',
      cell: (row) => <Acts song={song} row={row} edit={() => edit(row.key)} />,
    },
  ];
}

const What = ({ row }: { row: MapRow }) => (
  <span className="whitespace-nowrap text-faint">
    <KindGlyph kind={row.kind} />
    {kindNames[row.kind]}
  </span>
);

const Value = ({ row }: { row: MapRow }) => (
  <>
    <span className={row.mark ? 'font-medium' : 'num'}>{row.says}</span>{' '}
    {row.beside && <span className="ml-1 text-[12px] text-faint">{row.beside}</span>}
  </>
);

function Acts({ song, row, edit }: { song: SongView; row: MapRow; edit: () => void }) {
  const step = useStep(song.id, song.revision);
  const { prepare } = usePreparedStep();
  const what = `${kindNames[row.kind].toLowerCase()} at ${positionText(row.place)}`;
  return (
    <span className="whitespace-nowrap">
      <button
        type="button"
        className="rounded p-1 hover:bg-paper"
        aria-label={`Change ${what}`}
        onClick={() => (row.edit ? prepare(row.edit) : edit())}
      >
        <Pencil size={13} aria-hidden />
      </button>
      <button
        type="button"
        className="rounded p-1 text-rust hover:bg-paper"
        aria-label={`Take out ${what}`}
        disabled={step.isPending}
        onClick={() => step.mutate(row.remove)}
      >
        <X size={13} aria-hidden />
      </button>
    </span>
  );
}
