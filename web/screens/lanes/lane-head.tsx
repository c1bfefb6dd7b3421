import { ChevronsDownUp, ChevronsUpDown, PauseCircle, PlayCircle } from 'lucide-react';
import { count } from '../../components/text.ts';
import type { useStep } from '../../api/queries.ts';
import type { Bars } from '../../state/scope.ts';
import { laneTitle, type LaneOfTrack } from './lane-groups.ts';

const small = 'flex items-center gap-1 rounded border border-line px-1.5 text-ink';

interface Props {
  readonly one: LaneOfTrack;
  readonly by: 'track' | 'controller';
  readonly parked: boolean;
  readonly low: boolean;
  readonly raise: (() => void) | undefined;
  readonly step: ReturnType<typeof useStep>;
  readonly bars: Bars | undefined;
}

/** What a lane is, beneath the head of its group: the controller where that is the track, and the other way round. */
export function LaneHead({ one, by, parked, low, raise, step, bars }: Props) {
  const { track, lane, part } = one;
  const called = by === 'track' ? laneTitle(lane) : part;
  const values = lane.rows.length;
  return (
    <div
      className={`flex min-w-0 border-r border-line px-3 ${low ? 'items-center gap-2' : 'flex-col gap-0.5 py-1.5'} ${parked ? 'text-faint' : ''}`}
    >
      <span className={`truncate text-[13px] ${low ? 'flex-1' : ''}`} title={called}>
        {called}
        {track.channels.length > 1 && <span className="text-faint">, ch {lane.channel + 1}</span>}
      </span>
      <span
        className={`flex items-center gap-1 text-[12px] text-faint ${low ? 'shrink-0' : 'mt-auto'}`}
      >
        <span className="num mr-auto whitespace-nowrap" title={count(values, 'value')}>
          {low ? lane.values[0] : manyWords(values)}
        </span>
        {!parked && !low && values > 2 && (
          <button
            type="button"
            className={small}
            title="Leave out values, at most one step off"
            disabled={step.isPending}
            onClick={() =>
              step.mutate({
                operation: 'controllers.thin',
                settings: { error: 1, lanes: [lane.what] },
                scope: { tracks: [track.id], bars },
              })
            }
          >
            Thin
          </button>
        )}
        <button
          type="button"
          className={small}
          aria-label={parked ? 'Unpark' : 'Park'}
          title={parked ? 'Play and send it again' : 'Park: keep it, but neither play nor send it'}
          disabled={step.isPending}
          onClick={() =>
            step.mutate({
              operation: parked ? 'controllers.unpark' : 'controllers.park',
              settings: { lanes: [lane.what] },
              scope: { tracks: [track.id] },
            })
          }
        >
          {parked ? <PlayCircle size={12} aria-hidden /> : <PauseCircle size={12} aria-hidden />}
          {!low && (parked ? 'Unpark' : 'Park')}
        </button>
        {raise && <Raise called={called} low={low} raise={raise} />}
      </span>
    </div>
  );
}

/** A lane of one value as high as the others, to draw in it, or low again. */
function Raise({ called, low, raise }: { called: string; low: boolean; raise: () => void }) {
  const Icon = low ? ChevronsUpDown : ChevronsDownUp;
  return (
    <button
      type="button"
      className={small}
      aria-expanded={!low}
      aria-label={`Room to draw: ${called}`}
      title={low ? 'Higher, to draw in it' : 'Low again'}
      onClick={raise}
    >
      <Icon size={12} aria-hidden />
    </button>
  );
}

const manyWords = (values: number): string =>
  values < 1000 ? count(values, 'value') : values.toLocaleString('en');
