import type { Track } from '../../song/song.ts';
import { TickLists, type Difference } from './compare-ticks.ts';
import { findHeardTracks, sharedChannels, type HeardTracks } from './heard-tracks.ts';
import type { PartCase } from './part-case.ts';
import { kindOf } from './reading/event-kind.ts';
import { hear, type HeardEvent } from './reading/hear.ts';
import type { Channel } from './reading/channel.ts';
import { pairNotes } from './reading/pair-notes.ts';
import { mayLeave, payloadHex, touchesNothing } from './reading/leaving.ts';
import { stateLeaves } from './reading/state-leaves.ts';
import { channelsOfTrack, outlineTrack } from './reading/track-outline.ts';
import { withoutUsual } from './reading/usual-state.ts';

/** What is heard of a part. */
class Heard {
  readonly notes = new TickLists();
  /** Notes with all that their channel has in force, the first time and again. */
  readonly met = new TickLists();
  readonly metAgain = new TickLists();
  readonly messages = new TickLists();
  readonly keyPressure = new TickLists();
}

/** Every note with all that its channel has in force there, and every message between the ends of the part. */
export function verifyNotes(of: PartCase): Difference[] {
  const { wanted, places } = of;
  const heard = findHeardTracks(of);
  const [expected, found] = [expectHeard(of, heard), findHeard(of, heard)];
  const struck = wanted.edges.notes === 'again';
  return [
    ...expected.notes
      .compare(found.notes, places.reach)
      .filter((d) => !(struck && d.state === 'has' && places.isBoundary(d.tick))),
    ...[
      ...expected.met.compare(found.met, places.reach),
      ...expected.metAgain.compare(found.metAgain, places.reach),
    ].filter((d) => d.state === 'lacks'),
    // At the ends of a part what is stated or taken back is verified by what notes meet.
    ...expected.messages
      .compare(found.messages, places.reach)
      .filter((d) => !places.isBoundary(d.tick)),
    ...expected.keyPressure.compare(found.keyPressure, places.reach),
    ...sentInVain(of),
  ];
}

/** Messages that were not to leave at all, wherever they stand. */
function sentInVain({ leaving, wanted }: PartCase): Difference[] {
  if (touchesNothing(wanted.take)) return [];
  const leaves = mayLeave(wanted.take);
  return leaving.tracks.flatMap(({ id, events }) => {
    const found: Difference[] = [];
    for (let row = 0; row < events.count; row++) {
      if (events.status[row] === 0xff || leaves(events, row)) continue;
      const what = `${kindOf(events, row)} ${events.data1[row]}`;
      found.push({ state: 'has', owner: id, what, tick: events.atTick[row]! });
    }
    return found;
  });
}

const channelWords = (status: number, keepsChannels: boolean): string =>
  keepsChannels ? ` on channel ${(status & 15) + 1}` : '';
/** Names are without channels where tracks leave on others. */
const nameNote = (
  { status, data1, data2 }: Pick<HeardEvent, 'status' | 'data1' | 'data2'>,
  keepsChannels: boolean,
): string => `note ${data1} at velocity ${data2}${channelWords(status, keepsChannels)}`;
const nameMessage = ({ place, kind, data1, data2 }: HeardEvent): string =>
  `${kind} ${data1} ${data2} on channel ${(place & 15) + 1} of port ${place >> 4}`;

function expectHeard(of: PartCase, heard: HeardTracks): Heard {
  const { wanted, places } = of;
  const { from, to } = places.span;
  const expected = new Heard();
  const stateCounts = stateLeaves(wanted.take);
  const leaves = mayLeave(wanted.take);
  const keepsChannels = wanted.take.channels === 'as they are';
  const isKnown = knowsState(of, heard);
  const ports = heard.tracks.map((t) => outlineTrack(t.events).port);
  const addEach = (list: TickLists, owner: string, what: string, tick: number): void => {
    for (let time = 0; time < places.times; time++) list.add(owner, what, places.at(tick, time));
  };
  const addNote = (id: string, event: HeardEvent, channel: Channel): void => {
    const name = nameNote(event, keepsChannels);
    const words = isKnown(id, event.place) ? channel.words(stateCounts) : undefined;
    for (let time = 0; time < places.times; time++) {
      const at = places.at(event.atTick, time);
      expected.notes.add(id, name, at);
      if (words === undefined) continue;
      // What is said on the first tick behind a note there holds from the end of the first time on.
      if (time === 0) expected.met.add(id, `${name} with ${words}`, at);
      else if (event.atTick > from)
        expected.metAgain.add(id, `${name} with ${withoutUsual(words)}`, at);
    }
  };
  hear(
    heard.tracks.map((t) => t.events),
    ports,
    (event, channel) => {
      const { track, row, kind, atTick, place } = event;
      const { id, events } = heard.tracks[track]!;
      const isOurs = heard.chosen.has(id);
      if (atTick >= to || kind === 'note off' || !leaves(events, row)) return;
      if (kind === 'note on') {
        if (isOurs && atTick >= from) addNote(id, event, channel!);
        return;
      }
      if (kind === 'key pressure') {
        const what = `key pressure ${event.data1} ${event.data2}${channelWords(event.status, keepsChannels)}`;
        if (isOurs && atTick >= from) addEach(expected.keyPressure, id, what, atTick);
        return;
      }
      if (atTick <= from || (!isOurs && !heard.hears(place, ports[track]!))) return;
      if (kind === 'exclusive')
        addEach(expected.messages, 'song', `exclusive ${payloadHex(events, row)}`, atTick);
      else if (keepsChannels) addEach(expected.messages, 'song', nameMessage(event), atTick);
    },
    wanted.take.exclusive ? undefined : from,
  );
  if (wanted.edges.notes === 'again') expectStruckAgain(of, heard, expected.notes);
  return expected;
}

/** Notes that ring into a part are struck on its first tick, but for keys that are struck there anyway. */
function expectStruckAgain(of: PartCase, heard: HeardTracks, notes: TickLists): void {
  const { wanted, places } = of;
  const { from } = places.span;
  const keepsChannels = wanted.take.channels === 'as they are';
  for (const { id, events } of heard.tracks) {
    if (!heard.chosen.has(id) || from === 0) continue;
    const { on, off } = pairNotes(events);
    const struck = new Set<number>();
    const keyOf = (row: number): number => (events.status[row]! & 15) * 128 + events.data1[row]!;
    for (const row of on) if (events.atTick[row] === from) struck.add(keyOf(row));
    for (const [n, row] of on.entries()) {
      const end = off[n] === -1 ? 0 : events.atTick[off[n]!]!;
      if (events.atTick[row]! >= from || end <= from || struck.has(keyOf(row))) continue;
      struck.add(keyOf(row));
      const [status, data1, data2] = [events.status[row]!, events.data1[row]!, events.data2[row]!];
      const name = nameNote({ status, data1, data2 }, keepsChannels);
      for (let time = 0; time < places.times; time++) notes.add(id, name, places.at(from, time));
    }
  }
}

function findHeard({ leaving, wanted, places }: PartCase, heard: HeardTracks): Heard {
  const found = new Heard();
  const stateCounts = stateLeaves(wanted.take);
  const keepsChannels = wanted.take.channels === 'as they are';
  hear(
    leaving.tracks.map((t) => t.events),
    leaving.tracks.map((t) => heard.portOf(t)),
    (event, channel) => {
      const { track, row, kind, atTick, status } = event;
      const { id, events } = leaving.tracks[track]!;
      if (kind === 'note on') {
        const name = nameNote(event, keepsChannels);
        const words = channel!.words(stateCounts);
        found.notes.add(id, name, atTick);
        found.met.add(id, `${name} with ${words}`, atTick);
        if (places.times > 1) found.metAgain.add(id, `${name} with ${withoutUsual(words)}`, atTick);
      } else if (kind === 'key pressure') {
        const what = `key pressure ${event.data1} ${event.data2}${channelWords(status, keepsChannels)}`;
        found.keyPressure.add(id, what, atTick);
      } else if (kind === 'exclusive')
        found.messages.add('song', `exclusive ${payloadHex(events, row)}`, atTick);
      else if (kind !== 'note off' && keepsChannels)
        found.messages.add('song', nameMessage(event), atTick);
    },
  );
  return found;
}

/**
 * Whether it is known what a note must meet. Not where ports that keep channels apart stay here, nor on a
 * channel that tracks come to share; and where ticks are rounded, on one they share already, since what was
 * said a little behind a note in one of them may stand before it.
 */
function knowsState(
  { song, wanted, places, leaving }: PartCase,
  heard: HeardTracks,
): (id: string, place: number) => boolean {
  const ports = new Set(song.tracks.map((t) => outlineTrack(t.events).port));
  if (!wanted.take.ports && ports.size > 1) return () => false;
  if (wanted.take.channels === 'as they are') {
    const shared = places.reach > 0 ? sharedChannels(heard.tracks) : new Set();
    return (_, place) => !shared.has(place);
  }
  const shared = sharedChannels(leaving.tracks);
  const hasSeveral = ({ events }: Track): boolean => channelsOfTrack(events).length > 1;
  const several = new Set(heard.tracks.filter(hasSeveral).map((t) => t.id));
  const isShared = ({ events }: Track): boolean =>
    channelsOfTrack(events).some((c) => shared.has(outlineTrack(events).port * 16 + c));
  const alone = new Set(
    leaving.tracks.filter((t) => !isShared(t) && !several.has(t.id)).map((t) => t.id),
  );
  return (id) => alone.has(id) && places.reach === 0;
}
