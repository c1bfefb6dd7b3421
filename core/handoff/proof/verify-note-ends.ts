import type { Track } from '../../song/song.ts';
import { TickLists, type Difference } from './compare-ticks.ts';
import { isChosen, type PartCase } from './part-case.ts';
import { pairNotes } from './reading/pair-notes.ts';

/**
 * Where notes end, and how they are let go: as in the song, or with the part. Notes that ring from one time
 * into the next end where their key is struck.
 */
export function verifyNoteEnds(of: PartCase): Difference[] {
  const { song, wanted, leaving, places } = of;
  const { from, to } = places.span;
  const keeps = wanted.edges.notes === 'keep';
  if (keeps && places.times > 1) return [];
  const [expected, found] = [new Ends(), new Ends()];
  for (const track of song.tracks) {
    if (!isChosen(of, track)) continue;
    const { events, id } = track;
    const notes = pairNotes(events);
    if (to < Infinity && keeps && notes.off.includes(-1)) continue;
    const there = leaving.tracks.find((t) => t.id === id);
    if (there) addEnds(found, there);
    for (let n = 0; n < notes.count; n++) {
      const [on, off] = [notes.on[n]!, notes.off[n]!];
      const begins = events.atTick[on]!;
      if (begins < from || begins >= to || (off === -1 && to === Infinity)) continue;
      const ends = off === -1 ? to : events.atTick[off]!;
      const at = keeps ? ends : Math.min(ends, to);
      for (let time = 0; time < places.times; time++) {
        expected.all.add(id, `the end of note ${events.data1[on]}`, places.at(at, time));
        if (off !== -1 && ends < to)
          expected.released.add(id, releaseWords(track, off), places.at(at, time));
      }
    }
  }
  const reach = places.reach === 0 ? 0 : places.reach + 1;
  const struck = wanted.edges.notes === 'again';
  return [
    ...expected.all
      .compare(found.all, reach)
      .filter((d) => !(d.state === 'has' && (struck || (keeps && places.isBoundary(d.tick))))),
    ...expected.released.compare(found.released, reach).filter((d) => d.state === 'lacks'),
  ];
}

class Ends {
  readonly all = new TickLists();
  readonly released = new TickLists();
}

/** A note-on of velocity 0 ends a note as a release of 64 does (MIDI 1.0). */
const releaseWords = ({ events }: Track, off: number): string =>
  `note ${events.data1[off]} let go at ${events.status[off]! >> 4 === 8 ? events.data2[off] : 64}`;

function addEnds(ends: Ends, track: Track): void {
  const { id, events } = track;
  for (const off of pairNotes(events).off) {
    if (off === -1) continue;
    ends.all.add(id, `the end of note ${events.data1[off]}`, events.atTick[off]!);
    ends.released.add(id, releaseWords(track, off), events.atTick[off]!);
  }
}
