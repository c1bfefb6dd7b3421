import { transposed, chordText, pitchesOf, plainSpelling, type Chord } from '../harmony/chord.ts';
import { chordLineOf, type LineChord } from '../harmony/chord-line.ts';
import { inForceAt } from '../harmony/in-force.ts';
import { lineEnd } from '../harmony/read-chord.ts';
import { qualityOfBits } from '../harmony/qualities.ts';
import { pitchClass } from '../harmony/spelling.ts';
import { ok, type Result } from '../problems/problems.ts';
import type { TickSpan } from '../song/scope.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { chordTextOf } from '../timing/chord-texts.ts';
import type { Mark } from '../timing/marks.ts';
import { editMarks } from './edit-marks.ts';
import type { Change } from './report.ts';

/** A chord of the chord line that comes. */
export interface ChordComes {
  readonly atTick: number;
  readonly text: string;
  readonly travels: boolean;
}

interface Edited {
  readonly song: Song;
  readonly changes: readonly Change[];
}

/**
 * The song with these chords in the place of those of a span; those that only say again what is in force are
 * left out. Where the line goes on behind the span, so does the last of them, until the next that is written, as
 * in a chart; where nothing was said there, the line ends with the span. Or, behind it, each chord is in force
 * that was.
 */
export function withChordLine(
  song: Song,
  points: readonly ChordComes[],
  span: TickSpan,
  after: 'goes on' | 'as it was' = 'goes on',
): Result<Edited> {
  const line = chordLineOf(song);
  const before = inForceAt(line, span.from - 1)?.text;
  const come = changesOnly(points, before);
  const last = come.at(-1)?.text ?? before;
  const again = after === 'as it was' ? behind(line, span, last) : ending(song, line, come, span);
  const wanted = [...come, ...(again ? [again] : [])].map(({ atTick, text, travels }) => ({
    atTick,
    text: chordTextOf(text),
    kind: 'text' as const,
    travels,
  }));
  const says = (c: ChordComes): string => `${c.atTick} ${c.text} ${c.travels}`;
  const there = timingOf(song).chords.filter((c) => c.atTick >= span.from && c.atTick < span.to);
  const [has, wants] = [new Set(there.map(says)), new Set(wanted.map(says))];
  const edited = editMarks(
    song,
    [...there.filter((c) => !wants.has(says(c))), ...oldEnd(song, line, span, { last, again })],
    wanted.filter((c) => !has.has(says(c))),
    { kind: 'chord' },
  );
  if (!edited.ok) return edited;
  const { changes } = edited.value;
  return ok({ song: changes.length === 0 ? song : edited.value.song, changes });
}

/** The end of the line behind chords that come where it said nothing; none where the song ends there. */
function ending(
  song: Song,
  line: readonly LineChord[],
  come: readonly ChordComes[],
  span: TickSpan,
): ChordComes | undefined {
  const last = come.at(-1);
  if (!last || last.text === lineEnd || span.to >= timingOf(song).endTick) return undefined;
  const was = inForceAt(line, span.to);
  const goesOn = was && (!was.ends || (was.atTick === span.to && was.travels === last.travels));
  return goesOn ? undefined : { atTick: span.to, text: lineEnd, travels: last.travels };
}

/** The end behind a span, where no chord is left before it that it could end, or another takes its place. */
function oldEnd(
  song: Song,
  line: readonly LineChord[],
  span: TickSpan,
  { last, again }: { last: string | undefined; again: ChordComes | undefined },
): Mark[] {
  const next = line.find((c) => c.atTick >= span.to);
  const isOld = last === undefined || last === lineEnd || again?.atTick === next?.atTick;
  if (!next?.ends || !isOld) return [];
  return timingOf(song).chords.filter((c) => c.atTick === next.atTick);
}

/** Points without those that say the chord that is in force already; of several on a tick the last. */
function changesOnly(points: readonly ChordComes[], before: string | undefined): ChordComes[] {
  const left: ChordComes[] = [];
  for (const point of points) {
    if (left.at(-1)?.atTick === point.atTick) left.pop();
    const inForce = left.at(-1)?.text ?? before;
    const endsNothing = point.text === lineEnd && inForce === undefined;
    if (point.text !== inForce && !endsNothing) left.push(point);
  }
  return left;
}

/** The chord that was in force behind a span, to be said there where another would be now. */
function behind(
  line: readonly LineChord[],
  span: TickSpan,
  now: string | undefined,
): ChordComes | undefined {
  if (span.to === Infinity) return undefined;
  // Where nothing was said, the last chord goes on.
  const was = inForceAt(line, span.to);
  if (!was) return undefined;
  return was.atTick >= span.to || was.text === now ? undefined : { ...was, atTick: span.to };
}

/**
 * The chord line moved with its song: each chord of a span by what `target` says of a key at its tick. `odd`
 * counts those that have no name any more and stay.
 */
export function withChordsMoved(
  song: Song,
  span: TickSpan,
  target: (key: number, tick: number) => number,
): Result<Edited & { odd: number }> {
  let odd = 0;
  const points = chordLineOf(song)
    .filter((c) => c.atTick >= span.from && c.atTick < span.to)
    .map((c): ChordComes => {
      if (!c.chord) return c;
      const now = moved(c.chord, (key) => target(key, c.atTick));
      if (!now) {
        odd++;
        return c;
      }
      return { ...c, text: chordText(now, plainSpelling(now)) };
    });
  if (points.length === 0) return ok({ song, changes: [], odd: 0 });
  const done = withChordLine(song, points, span, 'as it was');
  return done.ok ? ok({ ...done.value, odd }) : done;
}

/** A chord whose notes go where `target` says of keys around the middle C; undefined where that is no chord. */
function moved(chord: Chord, target: (key: number) => number): Chord | undefined {
  const up = target(60 + chord.root) - (60 + chord.root);
  const alike = pitchesOf(chord).every((p) => target(60 + p) - (60 + p) === up);
  if (alike) return transposed(chord, up);
  const root = pitchClass(target(60 + chord.root));
  const bits = chord.quality.tones.reduce(
    (sum, t) => sum | (1 << pitchClass(target(60 + pitchClass(chord.root + t)) - root)),
    0,
  );
  const quality = qualityOfBits(bits);
  return (
    quality && {
      root,
      quality,
      ...(chord.bass === undefined ? {} : { bass: pitchClass(target(60 + chord.bass)) }),
    }
  );
}
