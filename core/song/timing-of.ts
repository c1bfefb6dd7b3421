import { payloadOf, type Events } from '../smf/events.ts';
import { stays } from '../smf/own-events.ts';
import { decodeText, type TextEncodingName } from '../smf/text.ts';
import { chordIn } from '../timing/chord-texts.ts';
import { pairSections } from '../timing/sections.ts';
import { markKinds, type Mark, type MarkKind } from '../timing/marks.ts';
import { timecodeOf, type Timing } from '../timing/timing.ts';
import { fromHex } from '../units/hex.ts';
import { shownText, type Song } from './song.ts';
import { factsOf } from './track-facts.ts';

const timingOfSong = new WeakMap<Song, Timing>();

/** Timing of a song; each track is looked through once, whatever songs share it. */
export function timingOf(song: Song): Timing {
  const known = timingOfSong.get(song);
  if (known) return known;
  const timing = gather(song);
  timingOfSong.set(song, timing);
  return timing;
}

function gather(song: Song): Timing {
  const timed = song.tracks.flatMap((t) =>
    ((facts) => (facts ? [{ track: t.id, facts }] : []))(factsOf(t).timing),
  );
  const facts = timed.map((t) => t.facts);
  const byTick = <T extends { atTick: number }>(lists: (readonly T[])[]): T[] =>
    lists.flat().sort((a, b) => a.atTick - b.atTick);
  const marks = (kind: MarkKind): Mark[] =>
    byTick(
      timed.map(({ track, facts: { marks: all } }) =>
        all
          .filter((m) => m.type === markKinds[kind])
          .map(({ atTick, said, travels, seconds }) => ({
            atTick,
            ...textsOf(decodeText(fromHex(said), song.encoding)),
            kind,
            track,
            travels,
            ...(seconds === undefined ? {} : { seconds }),
          })),
      ),
    );
  const smpteOffset = facts.find((f) => f.smpteOffset)?.smpteOffset;
  const timecode =
    facts.find((f) => f.timecode)?.timecode ?? (smpteOffset && timecodeOf(smpteOffset));
  const { sections, rest } = pairSections(marks('marker'));
  const texts = marks('text');
  const ofChordLine = ({ text }: Mark): boolean => chordIn(text) !== undefined;
  return {
    tempos: byTick(facts.map((f) => f.tempos)),
    meters: byTick(facts.map((f) => f.meters)),
    keys: byTick(facts.map((f) => f.keys)),
    markers: rest,
    cuePoints: marks('cue point'),
    texts: texts.filter((t) => !ofChordLine(t)),
    chords: texts.filter(ofChordLine),
    sections,
    copyright: [
      ...new Set(
        facts.flatMap((f) =>
          (f.copyright ?? []).map((said) => shownText(decodeText(fromHex(said), song.encoding))),
        ),
      ),
    ].filter((notice) => notice !== ''),
    endTick: song.tracks.reduce((latest, t) => Math.max(latest, factsOf(t).endTick), 0),
    ...(smpteOffset ? { smpteOffset } : {}),
    ...(timecode ? { timecode } : {}),
  };
}

/** What a marker, cue point or text says, as it is listed. */
export const markText = (events: Events, row: number, encoding: TextEncodingName): string =>
  shownText(decodeText(stays(events, row)?.text ?? payloadOf(events, row), encoding));

/** Texts up to so many letters keep their blanks and lines in lists. */
const longestWhole = 200;

function textsOf(said: string): { text: string; whole?: string } {
  const text = shownText(said);
  return said === text || said.length > longestWhole ? { text } : { text, whole: said };
}
