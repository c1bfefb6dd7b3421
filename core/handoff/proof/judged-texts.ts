import { isBridge } from '../../smf/bridges.ts';
import { isMeta, META, meta, payloadOf, type Events } from '../../smf/events.ts';
import { isChordEvent, meantType } from '../../smf/own-events.ts';
import { decodeText } from '../../smf/text.ts';
import { wordsTrack } from '../form/karaoke.ts';
import { writtenAs } from '../form/text.ts';
import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { factsOf } from '../../song/track-facts.ts';
import { toHex } from '../../units/hex.ts';
import { leavesBy } from '../part/taken.ts';
import { Atoms } from './atoms.ts';
import { isChosen, tickIn, type Judging } from './judging.ts';

/** Metas that are judged by what holds, or belong to the file. */
const notJudged: ReadonlySet<number> = new Set([
  meta.endOfTrack,
  meta.tempo,
  meta.smpteOffset,
  meta.sequenceNumber,
]);
const aboutTrack: ReadonlySet<number> = new Set([
  meta.trackName,
  meta.instrumentName,
  meta.deviceName,
  meta.channelPrefix,
  meta.port,
  meta.copyright,
]);
const ofMap: ReadonlySet<number> = new Set([meta.timeSignature, meta.keySignature]);
const marks: ReadonlySet<number> = new Set([meta.marker, meta.cuePoint]);

/**
 * Names, texts, lyrics, marks, meters and keys between the ends. Marks of sections go with their sections,
 * and are judged there.
 */
export function textsAndMap(judging: Judging): string[] {
  const { song, wanted, leaving, places } = judging;
  const { from, to } = places.span;
  const leaves = leavesBy(wanted.take);
  const sections = new Set(timingOf(song).sections.flatMap((s) => s.marks.map((m) => m.text)));
  const words = wanted.form.format === 'karaoke';
  const markAs = { markers: meta.marker, 'cue points': meta.cuePoint }[
    wanted.take.markers as string
  ];
  const longest = (type: number): number | null =>
    type === meta.trackName || type === meta.instrumentName
      ? wanted.form.longestName
      : marks.has(type)
        ? wanted.form.longestMark
        : null;
  const reads = (events: Events, row: number, of: Song): string => {
    const payload = payloadOf(events, row);
    const type = events.data1[row]!;
    if (type < 1 || type > 15) return toHex(payload);
    const text = decodeText(payload, of.encoding);
    const form = wanted.form.text;
    const said = form === 'as they are' || of === leaving ? text : writtenAs(text, form).text;
    const most = longest(type);
    // Of what was cut the beginning is judged: the end may tell it from others that are alike.
    return most === null
      ? said
      : Array.from(said)
          .slice(0, Math.max(0, most - 5))
          .join('');
  };
  const isJudged = (events: Events, row: number, of: Song): boolean => {
    const type = events.data1[row]!;
    if (events.status[row] !== META || notJudged.has(meantType(events, row))) return false;
    if (isBridge(events, row) || (words && (type === meta.lyric || type === meta.text)))
      return false;
    if (type === meta.text && wanted.take.markers === 'texts') return false;
    if (!marks.has(type)) return !(type === meta.timeSignature && wanted.form.tempo !== 'as it is');
    return (
      wanted.take.markers !== 'texts' &&
      !sections.has(decodeText(payloadOf(events, row), of.encoding))
    );
  };
  const name = (events: Events, row: number, id: string, of: Song): string => {
    const type = events.data1[row]!;
    const as = marks.has(type) ? (markAs ?? type) : type;
    const shared =
      marks.has(type) || ofMap.has(type) || type === meta.copyright || isChordEvent(events, row);
    return `${shared ? 'song' : id} meta ${as} ${reads(events, row, of)}`;
  };
  const [expected, found] = [new Atoms(), new Atoms()];
  // What several tracks state alike is said once.
  const seen = new Set<string>();
  const add = (all: Atoms, what: string, tick: number): void => {
    const key = `${all === found} ${what} ${Math.round(tick)}`;
    if (seen.has(key)) return;
    seen.add(key);
    all.add(what, tick);
  };
  for (const track of song.tracks) {
    const { events, id } = track;
    const chosen = isChosen(judging, track);
    if (!chosen && !factsOf(track).timing) continue;
    for (let row = 0; row < events.count; row++) {
      if (!isJudged(events, row, song) || !leaves(events, row)) continue;
      const type = events.data1[row]!;
      if (!chosen && !ofMap.has(type) && !marks.has(type) && !isChordEvent(events, row)) continue;
      if (wanted.take.channels !== 'as they are' && type === meta.channelPrefix) continue;
      const tick = events.atTick[row]!;
      const setsUp = aboutTrack.has(type);
      if (tick >= to || (!setsUp && tick < from)) continue;
      const times = setsUp ? 1 : places.times;
      for (let time = 0; time < times; time++)
        add(expected, name(events, row, id, song), places.at(Math.max(from, tick), time));
    }
  }
  for (const { events, id } of leaving.tracks)
    for (let row = 0; row < events.count; row++) {
      if (id === wordsTrack || !isJudged(events, row, leaving)) continue;
      if (wanted.take.channels !== 'as they are' && isMeta(events, row, meta.channelPrefix))
        continue;
      add(found, name(events, row, id, leaving), events.atTick[row]!);
    }
  // At the ends of a part what holds there is stated; a map without a name is called as the song.
  const isStated = (d: string): boolean =>
    / meta (88|89|1 chord:) /.test(d) && places.isBoundary(tickIn(d));
  const isNamed = (d: string): boolean =>
    judging.part.tracks?.size === 0 && /^has \w+ meta 3 /.test(d);
  return expected
    .against(found, places.most)
    .filter((d) => !isStated(d) && !isNamed(d) && !/ meta 2 /.test(d));
}
