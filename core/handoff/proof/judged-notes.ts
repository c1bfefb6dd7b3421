import { META, payloadOf } from '../../smf/events.ts';
import { notesOf } from '../../song/notes.ts';
import { channelsOf, type Track } from '../../song/song.ts';
import { toHex } from '../../units/hex.ts';
import { outlineOf } from '../outline.ts';
import { leavesBy } from '../part/taken.ts';
import { Atoms } from './atoms.ts';
import { countsBy } from './counts.ts';
import { hear, isExclusive, type HeardEvent } from './heard.ts';
import type { Channel } from './instrument.ts';
import { isChosen, tickIn, type Judging } from './judging.ts';
import { linesOf, sharedPlaces, type Lines } from './lines.ts';
import { portsOf } from './places.ts';
import { said } from './usual-words.ts';

/**
 * What is heard of a part: its notes, what they meet on their channels the first time and again, and what
 * is said between.
 */
class Heard {
  readonly notes = new Atoms();
  readonly met = new Atoms();
  readonly again = new Atoms();
  readonly said = new Atoms();
}

/** Every note, with all that its channel has in force there; every message between the ends of the part. */
export function notesAndMessages(judging: Judging): string[] {
  const { wanted, places } = judging;
  const lines = linesOf(judging);
  const [expected, found] = [expectedOf(judging, lines), foundIn(judging, lines)];
  const struck = wanted.edges.notes === 'again';
  return [
    ...expected.notes
      .against(found.notes, places.most)
      .filter((d) => !(struck && d.startsWith('has') && places.isBoundary(tickIn(d)))),
    ...[
      ...expected.met.against(found.met, places.most),
      ...expected.again.against(found.again, places.most),
    ].filter((d) => d.startsWith('lacks')),
    // At the ends of a part what is stated or taken back is judged by what notes meet.
    ...expected.said.against(found.said, places.most).filter((d) => !places.isBoundary(tickIn(d))),
  ];
}

/** Names are without channels where tracks leave on others. */
const noteName = (id: string, { status, data1, data2 }: HeardEvent, alike: boolean): string =>
  `${id} note ${alike ? status & 15 : ''} ${data1} ${data2}`;
const messageName = ({ place, status, data1, data2 }: HeardEvent): string =>
  `message ${place} ${status >> 4} ${data1} ${data2}`;
const begins = ({ status, data2 }: HeardEvent): boolean => status >> 4 === 9 && data2 > 0;

function expectedOf(judging: Judging, lines: Lines): Heard {
  const { wanted, places } = judging;
  const { from, to } = places.span;
  const expected = new Heard();
  const counts = countsBy(wanted.take);
  const leaves = leavesBy(wanted.take);
  const alike = wanted.take.channels === 'as they are';
  const tells = tellsOf(judging, lines);
  const ports = lines.tracks.map((t) => outlineOf(t.events).port);
  const columns = lines.tracks.map((t) => t.events);
  const each = (event: HeardEvent, channel: Channel | undefined): void => {
    const { track, row, atTick, status, place } = event;
    const { id, events } = lines.tracks[track]!;
    if (atTick >= to) return;
    if (begins(event)) {
      if (!lines.chosen.has(id) || atTick < from) return;
      const name = noteName(id, event, alike);
      const words = tells(id, place) ? channel!.words(counts) : undefined;
      for (let time = 0; time < places.times; time++) {
        const at = places.at(atTick, time);
        expected.notes.add(name, at);
        if (words === undefined) continue;
        // What is said on the first tick behind a note there holds from the end of the first time on.
        if (time === 0) expected.met.add(`${name} with ${words}`, at);
        else if (atTick > from) expected.again.add(`${name} with ${said(words)}`, at);
      }
      return;
    }
    const exclusive = isExclusive(status);
    if (atTick <= from || status === META || (status < 0xb0 && !exclusive)) return;
    if (!leaves(events, row) || (!exclusive && !alike)) return;
    if (!lines.chosen.has(id) && !lines.hears(place, ports[track]!)) return;
    const what = exclusive ? `exclusive ${toHex(payloadOf(events, row))}` : messageName(event);
    for (let time = 0; time < places.times; time++)
      expected.said.add(what, places.at(atTick, time));
  };
  const others = lines.tracks.filter((t) => !lines.chosen.has(t.id));
  hear(columns, ports, each, new Set(others.map((t) => t.events)));
  return expected;
}

function foundIn({ leaving, wanted, places }: Judging, lines: Lines): Heard {
  const found = new Heard();
  const counts = countsBy(wanted.take);
  const alike = wanted.take.channels === 'as they are';
  const columns = leaving.tracks.map((t) => t.events);
  const ports = leaving.tracks.map((t) => lines.portOf(t));
  hear(columns, ports, (event, channel) => {
    const { track, row, atTick, status } = event;
    const { id, events } = leaving.tracks[track]!;
    if (begins(event)) {
      const name = noteName(id, event, alike);
      const words = channel!.words(counts);
      found.notes.add(name, atTick);
      found.met.add(`${name} with ${words}`, atTick);
      if (places.times > 1) found.again.add(`${name} with ${said(words)}`, atTick);
    } else if (isExclusive(status))
      found.said.add(`exclusive ${toHex(payloadOf(events, row))}`, atTick);
    else if (status < 0xf0 && status >= 0xb0 && alike) found.said.add(messageName(event), atTick);
  });
  return found;
}

/**
 * Whether it can be told what a note must meet. Not where ports that keep channels apart stay here, nor on
 * a channel that tracks come to share; and where ticks are rounded, on one they share already, since what
 * was said a little behind a note in one of them may stand before it.
 */
function tellsOf(
  { song, wanted, places, leaving }: Judging,
  lines: Lines,
): (id: string, place: number) => boolean {
  if (!wanted.take.ports && new Set(portsOf(song)).size > 1) return () => false;
  if (wanted.take.channels === 'as they are') {
    const shared = places.most > 0 ? sharedPlaces(lines.tracks) : new Set();
    return (_, place) => !shared.has(place);
  }
  const shared = sharedPlaces(leaving.tracks);
  const several = new Set(
    lines.tracks.filter((t) => channelsOf(t.events).length > 1).map((t) => t.id),
  );
  const meets = new Set(
    leaving.tracks.filter((t) => !isShared(t, shared) && !several.has(t.id)).map((t) => t.id),
  );
  return (id) => meets.has(id) && places.most === 0;
}

const isShared = (track: Track, shared: ReadonlySet<number>): boolean =>
  channelsOf(track.events).some((c) => shared.has(outlineOf(track.events).port * 16 + c));

/**
 * Where notes end: as in the song, or with the part. Notes that ring from one time into the next end where
 * their key is struck.
 */
export function endsOfNotes(judging: Judging): string[] {
  const { song, wanted, leaving, places } = judging;
  const { from, to } = places.span;
  const keeps = wanted.edges.notes === 'keep';
  if (keeps && places.times > 1) return [];
  const [expected, found] = [new Atoms(), new Atoms()];
  for (const track of song.tracks) {
    if (!isChosen(judging, track)) continue;
    const { events } = track;
    const { on, off, count } = notesOf(events);
    if (to < Infinity && keeps && off.includes(-1)) continue;
    const leaf = leaving.tracks.find((t) => t.id === track.id);
    if (leaf) addEnds(found, leaf);
    for (let n = 0; n < count; n++) {
      const begins = events.atTick[on[n]!]!;
      if (begins < from || begins >= to || (off[n] === -1 && to === Infinity)) continue;
      const ends = off[n] === -1 ? to : events.atTick[off[n]!]!;
      const at = keeps ? ends : Math.min(ends, to);
      for (let time = 0; time < places.times; time++)
        expected.add(`${track.id} end ${events.data1[on[n]!]}`, places.at(at, time));
    }
  }
  const struck = wanted.edges.notes === 'again';
  return expected
    .against(found, places.most === 0 ? 0 : places.most + 1)
    .filter((d) => !(struck && d.startsWith('has')) && !(keeps && places.isBoundary(tickIn(d))));
}

function addEnds(ends: Atoms, { id, events }: Track): void {
  const { on, off, count } = notesOf(events);
  for (let n = 0; n < count; n++)
    if (off[n] !== -1) ends.add(`${id} end ${events.data1[on[n]!]}`, events.atTick[off[n]!]!);
}
