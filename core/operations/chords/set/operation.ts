import { z } from 'zod';
import { withChordLine } from '../../../edit/chord-line.ts';
import { counted } from '../../../edit/rewrite.ts';
import { readChord } from '../../../harmony/read-chord.ts';
import { harmonyOf, harmonyOfTracks } from '../../../harmony/told.ts';
import { readTyped, type ChordPoint } from '../../../harmony/typed-chords.ts';
import { ok, refused, type Problem } from '../../../problems/problems.ts';
import { spanOf, tracksIn, type Scope, type TickSpan } from '../../../song/scope.ts';
import type { Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { barTick, barsUntil, meterMap } from '../../../timing/meter-map.ts';
import { chordsInTexts } from './chords-in-texts.ts';
import { defineOperation, type Report } from '../../operation.ts';

const tick = z.int().min(0).max(1_000_000_000_000);
const mostPoints = 20_000;
/** More bars than anybody types. */
const mostTyped = 40_000;

const settings = z.strictObject({
  from: z.enum(['typed', 'what sounds', 'texts', 'points', 'nothing']).default('typed').meta({
    title: 'From',
    description:
      'Typed; told from what sounds in the tracks of the scope; from lyrics and texts that are chord symbols; points at ticks; or nothing, which takes the chords out.',
  }),
  typed: z.string().max(mostTyped).default('').meta({
    title: 'Chords',
    description:
      'Dm7 G7/B | Cmaj9: bars are parted by | and divided evenly; . goes on with the chord before.',
    offers: 'lines',
  }),
  points: z
    .array(z.strictObject({ atTick: tick, chord: z.string().max(60) }))
    .max(mostPoints)
    .default([])
    .meta({ title: 'At ticks', offers: 'points' }),
  repeat: z.boolean().default(false).meta({
    title: 'Again and again until the bars are full',
    description: 'For typed chords, where the scope has bars.',
  }),
  sent: z.boolean().default(true).meta({
    title: 'Sent with the song',
    description: 'As texts that begin with “chord: ”; else they are kept here only.',
  }),
});
type Settings = z.infer<typeof settings>;

export const chordsSet = defineOperation({
  id: 'chords.set',
  version: 1,
  title: 'Write the chord line',
  summary:
    'Writes the chords of the song, or of some bars: typed, told from what sounds, or taken from lyrics and texts. They stand among the events as texts, move with the bars and are transposed with the song.',
  group: 'chords',
  scope: 'events',
  settings,
  apply(song, asked, scope) {
    const span = spanOf(song, scope);
    if (!span.ok) return span;
    const come = pointsFrom(song, asked, scope, span.value);
    if (!come.ok) return { ok: false, problem: come.problem };
    const { points, span: over, skipped } = come;
    const line = withChordLine(
      song,
      points.map((p) => ({ ...p, travels: asked.sent })),
      over,
    );
    if (!line.ok) return line;
    const { changes } = line.value;
    const same = changes.length === 0 && skipped.length === 0;
    return ok({
      song: line.value.song,
      report: { changes, skipped: same ? [{ why: 'The chord line says that already.' }] : skipped },
    });
  },
  describe: ({ from, typed, points }, { changes }) => {
    const count = changes.reduce((sum, c) => sum + (c.counts['chord'] ?? 0), 0);
    if (from === 'nothing') return `Took ${counted(count, 'chord')} out of the chord line`;
    if (from === 'typed')
      return `Wrote ${typed.trim().replaceAll(/\s+/g, ' ').slice(0, 40)} into the chord line`;
    if (from === 'points')
      return `Moved chords of the chord line: ${counted(points.length, 'chord')} now`;
    return `Wrote ${counted(count, 'chord')} into the chord line, from ${from}`;
  },
  examples: [
    { says: 'Typed', settings: { typed: 'Dm7 G7/B | Cmaj9' } },
    { says: 'Told from what sounds', settings: { from: 'what sounds' } },
    { says: 'From lyrics and texts', settings: { from: 'texts' } },
    {
      says: 'None, in two bars',
      settings: { from: 'nothing' },
      scope: { tracks: 'all', bars: { from: 1, to: 2 } },
    },
    {
      says: 'Four chords over and over, kept here only',
      settings: { typed: 'Am | F | C | G', repeat: true, sent: false },
      scope: { tracks: 'all', bars: { from: 1, to: 8 } },
    },
  ],
});

type Come =
  | {
      readonly ok: true;
      readonly points: readonly ChordPoint[];
      /** What they take the place of. */
      readonly span: TickSpan;
      readonly skipped: Report['skipped'];
    }
  | { readonly ok: false; readonly problem: Problem };

function pointsFrom(song: Song, asked: Settings, scope: Scope, span: TickSpan): Come {
  switch (asked.from) {
    case 'nothing':
      return { ok: true, points: [], span, skipped: [] };
    case 'typed':
      return typedPoints(song, asked, scope, span);
    case 'points':
      return handPoints(asked, span);
    case 'texts':
      return textPoints(song, scope, span);
    case 'what sounds':
      return toldPoints(song, scope, span);
  }
}

function typedPoints(song: Song, { typed, repeat }: Settings, scope: Scope, span: TickSpan): Come {
  const timing = timingOf(song);
  const meters = meterMap(timing.meters, song.division);
  const first = scope.bars?.from ?? 1;
  if (typed.trim() === '')
    return refused({
      code: 'settings-invalid',
      where: { field: 'settings.typed' },
      expected: 'chords, as Dm7 G7/B | Cmaj9',
      found: 'nothing',
    });
  const once = readTyped(typed, meters, first);
  if ('typed' in once)
    return refused({
      code: 'chord-unreadable',
      where: { field: 'settings.typed' },
      typed: once.typed,
      bar: first + once.bar - 1,
    });
  const bars = scope.bars
    ? Math.min(scope.bars.to, barsUntil(meters, timing.endTick)) - first + 1
    : once.bars;
  const full = repeat ? Math.max(bars, once.bars) : once.bars;
  const over = { from: barTick(meters, first), to: barTick(meters, first + full) };
  if (full === once.bars) return { ok: true, points: once.points, span: over, skipped: [] };
  const points: ChordPoint[] = [];
  for (let bar = 0; bar < full; bar += once.bars) {
    const again = readTyped(typed, meters, first + bar);
    if ('points' in again)
      points.push(...again.points.filter((p) => p.atTick < span.to && p.atTick < over.to));
  }
  return { ok: true, points, span: over, skipped: [] };
}

function handPoints({ points }: Settings, span: TickSpan): Come {
  const read: ChordPoint[] = [];
  for (const { atTick, chord } of points) {
    const found = readChord(chord);
    if (!found)
      return refused({
        code: 'chord-unreadable',
        where: { field: 'settings.points', tick: atTick },
        typed: chord,
      });
    if (atTick >= span.from && atTick < span.to) read.push({ atTick, text: found.text });
  }
  read.sort((a, b) => a.atTick - b.atTick);
  return { ok: true, points: read, span, skipped: [] };
}

/** Lyrics and texts that are chord symbols. */
function textPoints(song: Song, scope: Scope, span: TickSpan): Come {
  const inScope = tracksIn(song, scope);
  if (!inScope.ok) return inScope;
  const { points, unread } = chordsInTexts(inScope.value, span, song.encoding);
  const more = unread.length > mostNamed ? ' …' : '';
  const named = unread.slice(0, mostNamed).map((u) => `“${u}”`);
  const skipped = [
    ...(unread.length > 0 ? [{ why: `No chord symbols: ${named.join(', ')}${more}.` }] : []),
    ...(points.length === 0 ? [{ why: 'No lyric and no text there is a chord symbol.' }] : []),
  ];
  // Nothing found takes nothing out.
  return { ok: true, points, span: points.length === 0 ? { from: 0, to: 0 } : span, skipped };
}
const mostNamed = 20;

function toldPoints(song: Song, scope: Scope, span: TickSpan): Come {
  const inScope = tracksIn(song, scope);
  if (!inScope.ok) return inScope;
  const whole = inScope.value.length === song.tracks.length;
  const { chords } = whole ? harmonyOf(song) : harmonyOfTracks(song, inScope.value);
  const inside = chords.filter((c) => c.toTick > span.from && c.atTick < span.to);
  const points = inside.map((c) => ({ atTick: Math.max(c.atTick, span.from), text: c.name }));
  // Where nothing sounds for a while no chord goes on.
  const silences = inside.flatMap((c, n) => {
    const next = inside[n + 1];
    return next && next.atTick > c.toTick ? [{ atTick: c.toTick, text: 'N.C.' }] : [];
  });
  const skipped = points.length === 0 ? [{ why: 'Nothing with a pitch sounds there.' }] : [];
  return {
    ok: true,
    points: [...points, ...silences].sort((a, b) => a.atTick - b.atTick),
    span: points.length === 0 ? { from: 0, to: 0 } : span,
    skipped,
  };
}
