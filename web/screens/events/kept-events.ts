import { toast } from 'sonner';
import type { TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import type { EventIndex } from '#core/song/event-index.ts';
import { moveOf, placesOf } from '#core/timing/time-map.ts';
import { count } from '../../components/text.ts';
import { takeMoves } from '../../state/moved.ts';

/** An event as it is found again after a step: by its track, place and first bytes. */
interface Kept {
  readonly track: string;
  readonly atTick: number;
  readonly is: string;
}

/** Of more events than this none is found again. */
const mostKept = 20_000;
let kept: { readonly song: string; readonly revision: number; readonly events: readonly Kept[] } = {
  song: '',
  revision: 0,
  events: [],
};

interface List {
  readonly song: { readonly id: string; readonly revision: number };
  readonly tracks: readonly TrackView[];
  readonly events: readonly Events[];
  readonly index: EventIndex;
}

const keyOf = ({ track, atTick, is }: Kept): string => `${track} ${atTick} ${is}`;

function eventAt({ tracks, events, index }: List, n: number): Kept {
  const [t, row] = [index.track[n]!, index.row[n]!];
  const { atTick, status, data1 } = events[t]!;
  return { track: tracks[t]!.id, atTick: atTick[row]!, is: `${status[row]} ${data1[row]}` };
}

/** Notes which events of a list are chosen, so that they are found again in the song as a step leaves it. */
export function keepEvents(list: List, chosen: ReadonlySet<number>): void {
  const { id: song, revision } = list.song;
  const events = chosen.size > mostKept ? [] : [...chosen].map((n) => eventAt(list, n));
  kept = { song, revision, events };
}

export const forgetEvents = (): void => void (kept = { song: '', revision: 0, events: [] });

/** The events that were chosen in the song as it was before, where time took them; that some are gone is said. */
export function keptEvents(list: List): ReadonlySet<number> {
  const { song, revision, events } = kept;
  if (song !== list.song.id || revision === list.song.revision || events.length === 0)
    return new Set();
  const moves = takeMoves(song);
  const wanted = new Set(
    events.map((e) => {
      const [at] = moves ? placesOf(moveOf(moves, e.track), e.atTick) : [e.atTick];
      return keyOf({ ...e, atTick: at === undefined ? -1 : Math.round(at) });
    }),
  );
  const found = new Set<number>();
  const met = new Set<string>();
  for (let n = 0; n < list.index.count; n++) {
    const key = keyOf(eventAt(list, n));
    if (!wanted.has(key)) continue;
    found.add(n);
    met.add(key);
  }
  const gone = wanted.size - met.size;
  if (gone > 0)
    toast(`${count(gone, 'chosen event')} ${gone === 1 ? 'is' : 'are'} no longer in this list.`);
  keepEvents(list, found);
  return found;
}
