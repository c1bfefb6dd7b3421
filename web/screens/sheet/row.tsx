import { keyNow } from '../../keys/shown.ts';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Ear, EarOff, GripVertical } from 'lucide-react';
import { memo, useMemo } from 'react';
import type { TrackView } from '#contracts/songs.ts';
import { keyName } from '#core/units/units.ts';
import { Grip } from '../../components/grip.tsx';
import { NameField } from '../../components/name-field.tsx';
import { Canvas } from '../../drawing/canvas.tsx';
import { drawActivity, drawPitch, drawVelocity, isFlat } from '../../drawing/glyphs.ts';
import type { Outgoing } from '../../handoff/drag-out.ts';
import { FamilyGlyph, instrumentText } from '../../tracks/glyph.tsx';
import { pointAt } from '../../state/pointed.ts';
import { useScope } from '../../state/scope.ts';
import { isFlood, type Lane } from './lanes.ts';
import { runAt } from './runs.ts';
import { CheckBox } from '../../fields/check.tsx';

export const rowHeight = 38;

export interface RowActions {
  pick(id: string, how: { extend: boolean; add: boolean }): void;
  rename(id: string): void;
  renamed(id: string, name: string | undefined): void;
  /** Chooses what plays it. */
  choose(id: string): void;
  /** Has it heard as all others again. */
  hearAgain(id: string): void;
  /** The track as a file that can be dragged out. */
  out(id: string, called: string): Outgoing;
}

interface Props {
  readonly track: TrackView;
  readonly place: number;
  readonly map: boolean;
  readonly lanes: readonly Lane[];
  readonly bars: number;
  readonly middleC: number;
  readonly selected: boolean;
  readonly focusable: boolean;
  readonly editing: boolean;
  readonly movable: boolean;
  /** Whether it is heard; `alone` where it is one of those that are heard alone. */
  readonly heard: 'heard' | 'silent' | 'alone';
  /** Findings about the track that are open. */
  readonly findings: number;
  /** Where something of it is marked, as parts of the song's length. */
  readonly marked: readonly number[] | undefined;
  readonly actions: RowActions;
}

/** One track: everything it carries, on the axes that all rows share. */
export const Row = memo(function Row(props: Props) {
  const { track, place, map, lanes, bars, middleC, marked, actions } = props;
  const { selected, focusable, movable } = props;
  const sortable = useSortable({ id: track.id, disabled: !movable });
  const { setNodeRef, transform, transition, isDragging } = sortable;
  const called = track.name || `track ${place}`;
  return (
    <tr
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition, height: rowHeight }}
      data-track={track.id}
      aria-selected={selected}
      tabIndex={focusable ? 0 : -1}
      data-begin={focusable ? '' : undefined}
      onClick={(e) => actions.pick(track.id, { extend: e.shiftKey, add: e.ctrlKey || e.metaKey })}
      onDoubleClick={() => actions.rename(track.id)}
      className={`group/row border-b border-line outline-offset-[-2px] select-none ${selected ? 'bg-amber-soft' : 'hover:bg-sheet'} ${isDragging ? 'relative z-20 bg-sheet shadow-lg' : ''}`}
    >
      <td className="w-[26px] pl-2">
        <CheckBox
          label={`Select ${called}`}
          checked={selected}
          set={() => actions.pick(track.id, { extend: false, add: true })}
          skipped
        />
      </td>
      <PlaceCell called={called} place={place} movable={movable} sortable={sortable} />
      <td className="max-w-[230px] min-w-[150px] pr-2">
        <NameCell {...props} called={called} />
      </td>
      <td className={`num px-1 text-right ${track.channels.length > 1 ? 'text-ochre' : ''}`}>
        {channelText(track)}
      </td>
      <td className="num px-2 text-right">
        {track.notes > 0 ? track.notes.toLocaleString('en') : <span className="text-faint">–</span>}
      </td>
      <td className="px-1">
        <PitchCell pitch={track.pitch} middleC={middleC} />
      </td>
      <td className="px-1">
        <VelocityCell track={track} />
      </td>
      {lanes.map((lane) => (
        <LaneCell key={lane.key} lane={lane} count={lane.countIn(track)} bars={bars} />
      ))}
      <td className="relative w-full min-w-[170px] pr-3 pl-2">
        <ActivityCell activity={track.activity} bars={bars} marked={marked} />
        {!map && (
          <Grip
            says={`${called} as a file`}
            out={() => actions.out(track.id, called)}
            className="absolute top-1/2 right-1 -translate-y-1/2 bg-paper opacity-0 group-hover/row:opacity-100 focus-visible:opacity-100"
            skipped
          />
        )}
      </td>
    </tr>
  );
});

/** Its number, by which it is dragged where rows stand in the song's order. */
const PlaceCell = ({
  called,
  place,
  movable,
  sortable: { attributes, listeners, setActivatorNodeRef },
}: Pick<Props, 'place' | 'movable'> & {
  called: string;
  sortable: ReturnType<typeof useSortable>;
}) => (
  <td className="w-[46px] min-w-[46px] pr-1">
    <span
      ref={setActivatorNodeRef}
      {...(movable ? { ...attributes, ...listeners } : {})}
      tabIndex={-1}
      className={`num flex items-center text-faint ${movable ? 'cursor-grab' : ''}`}
      {...(movable ? { 'aria-label': `Drag ${called}` } : {})}
    >
      {movable ? <GripVertical size={12} aria-hidden /> : <span className="w-3" />}
      {place}
    </span>
  </td>
);

const channelText = (track: TrackView): string =>
  track.channels.length > 2 ? `${track.channels.length} ch` : track.channels.join(', ');

function NameCell({
  track,
  map,
  editing,
  called,
  heard,
  findings,
  actions,
}: Pick<Props, 'track' | 'map' | 'editing' | 'heard' | 'findings' | 'actions'> & {
  called: string;
}) {
  if (editing)
    return (
      <NameField
        label={`Name of ${called}`}
        initial={track.name}
        className="w-full"
        done={(name) => actions.renamed(track.id, name)}
      />
    );
  return (
    <div className="flex items-center gap-2">
      <FamilyGlyph track={track} map={map} />
      <div className="min-w-0 leading-tight">
        <div
          className={`truncate ${track.name !== '' ? 'font-medium' : map ? 'text-faint' : 'text-ochre italic'}`}
          title={track.name}
        >
          {track.name || (map ? 'song map' : 'no name')}
        </div>
        <Instrument track={track} map={map} called={called} choose={actions.choose} />
      </div>
      {heard !== 'heard' && (
        <HeardMark heard={heard} called={called} press={() => actions.hearAgain(track.id)} />
      )}
      {/* Its room is there before it is known how many there are: no column moves then. */}
      {findings === 0 ? (
        <span aria-hidden className="num invisible ml-auto border px-1.5 text-[11px]">
          0
        </span>
      ) : (
        <span
          className="num ml-auto rounded-full border border-ochre-fill px-1.5 text-[11px] text-ochre"
          role="img"
          aria-label={`${findings} findings`}
          title={`${findings} ${findings === 1 ? 'finding' : 'findings'}`}
        >
          {findings}
        </span>
      )}
    </div>
  );
}

/** That a track is silent, or heard alone: pressed, it is heard as all others. */
function HeardMark({
  heard,
  called,
  press,
}: {
  heard: 'silent' | 'alone';
  called: string;
  press: () => void;
}) {
  const says = heard === 'silent' ? `${called} is not heard` : `${called} is heard alone`;
  const Mark = heard === 'silent' ? EarOff : Ear;
  return (
    <button
      type="button"
      tabIndex={-1}
      className={`ml-auto shrink-0 rounded p-0.5 ${heard === 'silent' ? 'text-faint' : 'text-ochre'}`}
      aria-label={`${says}: hear it as the others`}
      title={`${says} (${keyNow(heard === 'silent' ? 'sheet-silent' : 'sheet-alone')})`}
      onClick={(e) => {
        e.stopPropagation();
        press();
      }}
    >
      <Mark size={14} aria-hidden />
    </button>
  );
}

/** What plays the track: pressed, another is chosen. */
function Instrument({
  track,
  map,
  called,
  choose,
}: Pick<Props, 'track' | 'map'> & { called: string; choose: RowActions['choose'] }) {
  const look = `block max-w-full truncate text-left text-[11.5px] ${track.programs.length > 1 ? 'text-ochre' : 'text-faint'}`;
  const says = instrumentText(track, map);
  if (map) return <span className={look}>{says}</span>;
  return (
    <button
      type="button"
      tabIndex={-1}
      className={`${look} hover:underline hover:decoration-amber hover:underline-offset-2`}
      aria-label={`What plays ${called}: ${says}`}
      title={`${says}: press for another (${keyNow('sheet-instrument')})`}
      onClick={(e) => {
        e.stopPropagation();
        choose(track.id);
      }}
      onDoubleClick={(e) => e.stopPropagation()}
    >
      {says}
    </button>
  );
}

function PitchCell({ pitch, middleC }: { pitch: TrackView['pitch']; middleC: number }) {
  const draw = useMemo(() => drawPitch(pitch), [pitch]);
  return (
    <div
      title={pitch ? `${keyName(pitch.lowest, middleC)} to ${keyName(pitch.highest, middleC)}` : ''}
    >
      <Canvas draw={draw} className="h-[26px] w-[92px]" />
    </div>
  );
}

function VelocityCell({ track }: { track: TrackView }) {
  const { velocity } = track;
  const flat = isFlat(track);
  const draw = useMemo(() => drawVelocity(velocity, flat), [velocity, flat]);
  const says = !velocity
    ? ''
    : velocity.distinct === 1
      ? `every note at velocity ${velocity.lowest}`
      : `velocities ${velocity.lowest} to ${velocity.highest}, ${velocity.mean} on average`;
  return (
    <div title={says}>
      <Canvas draw={draw} className="h-[26px] w-[62px]" {...(flat ? { label: says } : {})} />
    </div>
  );
}

function LaneCell({ lane, count, bars }: { lane: Lane; count: number; bars: number }) {
  const flood = isFlood(count, bars);
  return (
    <td className="w-[19px] px-0 text-center align-middle">
      {count > 0 && (
        <span
          role="img"
          aria-label={`${lane.name}: ${count.toLocaleString('en')}`}
          title={`${lane.name}: ${count.toLocaleString('en')}${flood ? ', a flood' : ''}`}
          className={`inline-block rounded-full align-middle ${flood ? 'bg-ochre-fill' : 'bg-stitch'}`}
          style={{ width: dotSize(count), height: dotSize(count) }}
        />
      )}
    </td>
  );
}

/** Pixels across: one event 4, a thousand 13, ten thousand 16. */
const dotSize = (count: number): number => Math.min(17, 4 + Math.round(Math.log10(count) * 3));

/** Where a track plays; two presses on a run make its bars the scope. */
function ActivityCell({
  activity,
  bars,
  marked,
}: {
  activity: TrackView['activity'];
  bars: number;
  marked: Props['marked'];
}) {
  const draw = useMemo(() => drawActivity(activity, marked), [activity, marked]);
  const span = useScope((s) => s.span);
  return (
    <div
      className="along-song relative"
      title="Two presses: the bars of this run become the scope"
      onPointerMove={(e) => {
        const { left, width } = e.currentTarget.getBoundingClientRect();
        pointAt(Math.min(1, Math.max(0, (e.clientX - left) / width)));
      }}
      onPointerLeave={() => pointAt(undefined)}
      onDoubleClick={(e) => {
        e.stopPropagation();
        const { left, width } = e.currentTarget.getBoundingClientRect();
        span(runAt(activity, (e.clientX - left) / width, bars));
      }}
    >
      <Canvas draw={draw} className="h-[26px] w-full" />
    </div>
  );
}
