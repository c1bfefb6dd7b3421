import type { TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import type { EventIndex } from '#core/song/event-index.ts';
import { moveOf, placesOf } from '#core/timing/time-map.ts';
import { count } from '../../components/text.ts';
import { isWithin, type Marked } from '../../state/marked.ts';
import { takeMoves } from '../../state/moved.ts';
import { say } from '../../messages/messages.ts';

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

/** Chosen events as a step will leave them: `after` says what becomes of the first bytes of each. */
export function expectEvents(
  list: List,
  chosen: ReadonlySet<number>,
  after: (status: number, data1: number) => readonly [status: number, data1: number],
): void {
  keepEvents(list, chosen);
  const events = kept.events.map((event): Kept => {
    const [status = 0, data1 = 0] = event.is.split(' ').map(Number);
    return { ...event, is: after(status, data1).join(' ') };
  });
  kept = { ...kept, events };
}

/** The rows of a list that are marked. */
export function markedIn({ tracks, index }: List, { rows }: Marked): ReadonlySet<number> {
  const found = new Set<number>();
  for (let n = 0; n < index.count; n++)
    if (isWithin(rows[tracks[index.track[n]!]!.id], index.row[n]!)) found.add(n);
  return found;
}

/** Where the list is: how far it is scrolled, which row is in focus, whether the keys go to it. */
export interface Place {
  readonly top: number;
  readonly row: number;
  readonly focused: boolean;
}
let place: (() => Place) | undefined;

/** How to see where the list is. */
export const keepPlace = (see: () => Place): void => void (place = see);
/** Where the list is that another takes the place of; undefined where one is opened. */
export const keptPlace = (): Place | undefined => place?.();

/** An event that is on its way: it is chosen and gone to once it is there. */
let awaited = false;
export function awaitEvent(song: List['song'], event: Kept): void {
  kept = { song: song.id, revision: song.revision, events: [event] };
  awaited = true;
}
export function wasAwaited(): boolean {
  const was = awaited;
  awaited = false;
  return was;
}

export function forgetEvents(): void {
  kept = { song: '', revision: 0, events: [] };
  place = undefined;
  awaited = false;
}

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
    say(`${count(gone, 'chosen event')} ${gone === 1 ? 'is' : 'are'} no longer in this list.`);
  keepEvents(list, found);
  return found;
}
