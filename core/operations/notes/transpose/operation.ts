import { z } from 'zod';
import { percussionChannel } from '../../../instruments/general-midi.ts';
import type { Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { notesOf } from '../../../song/notes.ts';
import {
  byKeySteps,
  keyOfSignature,
  modes,
  tonics,
  type Mode,
} from '../../../harmony/key-steps.ts';
import { gone, rekeyed, rekeyWords } from '../../../edit/rekey.ts';
import { counted, inTracks, rewriteTracks, totalOf, within } from '../../../edit/rewrite.ts';
import { withChordsMoved } from '../../../edit/chord-line.ts';
import { pitchedNotes } from '../../../harmony/pitched-notes.ts';
import { ok, type Result } from '../../../problems/problems.ts';
import { spanOf, type Scope } from '../../../song/scope.ts';
import { quarterTicks } from '../../../timing/meter-map.ts';
import { defineOperation, type Applied } from '../../operation.ts';

export const notesTranspose = defineOperation({
  id: 'notes.transpose',
  version: 2,
  title: 'Transpose',
  summary:
    'Moves notes up or down by semitones, or by steps of a key. Notes that would leave the keyboard are folded back by octaves, left out, or left as they are and reported.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    semitones: z
      .int()
      .min(-127)
      .max(127)
      .default(0)
      .meta({ title: 'Semitones', description: '12 is an octave up.' }),
    steps: z.int().min(-35).max(35).default(0).meta({
      title: 'Steps of the key',
      description: '7 is an octave; 2 a third up within the key. Counted before the semitones.',
    }),
    tonic: z
      .enum(['as in the song', ...tonics])
      .default('as in the song')
      .meta({
        title: 'Key',
        description:
          'For steps: the song’s key signatures (C major where it has none), or another key.',
      }),
    mode: z
      .enum(Object.keys(modes) as [Mode, ...Mode[]])
      .default('major')
      .meta({ title: 'Scale', description: 'For a key that is named.' }),
    outside: z
      .enum(['fold', 'drop', 'report'])
      .default('fold')
      .meta({ title: 'Notes outside 0 to 127' }),
    drums: z.boolean().default(false).meta({
      title: 'The drum channel too',
      description: 'On channel 10 keys are instruments, not pitches.',
    }),
  }),
  apply(song, settings, scope) {
    const { outside, drums } = settings;
    const target = targets(song, settings);
    const done = rewriteTracks(song, scope, (events, span) => {
      const notes = notesOf(events);
      const meant = (row: number): boolean =>
        within(span, events, row) && (drums || (events.status[row]! & 15) !== percussionChannel);
      let beyond = 0;
      const now = rekeyed(
        events,
        (n) => {
          const on = notes.on[n]!;
          const key = events.data1[on]!;
          if (!meant(on)) return key;
          const wanted = target(key, events.atTick[on]!);
          if (wanted >= 0 && wanted <= 127) return wanted;
          beyond++;
          return outside === 'fold' ? folding(wanted) : outside === 'drop' ? gone : key;
        },
        meant,
      );
      const changed = now.moved + now.out + now.together;
      if (changed === 0)
        return {
          left:
            beyond > 0
              ? `${counted(beyond, 'note')} would leave the keyboard, and nothing else moves.`
              : 'It has no notes to move there.',
        };
      const did = {
        fold: 'folded back',
        drop: 'left out',
        report: 'out of range, left as they were',
      };
      const detail = [beyond > 0 && `${counted(beyond, 'note')} ${did[outside]}`, rekeyWords(now)];
      return {
        events: now.events,
        counts: { note: changed },
        ...(detail.some(Boolean) ? { detail: detail.filter(Boolean).join(', ') } : {}),
      };
    });
    return done.ok && done.value.report.changes.length > 0 && takesAll(song, scope)
      ? withItsChords(done.value, scope, target)
      : done;
  },
  describe: ({ semitones, steps }, report) =>
    `Transposed ${counted(totalOf(report, 'note'), 'note')} ${inTracks(report)} by ${[steps !== 0 && `${signed(steps)} steps of the key`, (semitones !== 0 || steps === 0) && signed(semitones)].filter(Boolean).join(' and ')}`,
  examples: [
    { says: 'An octave down', settings: { semitones: -12 } },
    { says: 'A third up within the key', settings: { steps: 2 } },
  ],
});

/** Whether all that has a pitch is meant: then the chord line is, too. */
function takesAll(song: Song, scope: Scope): boolean {
  if (scope.rows) return false;
  const { tracks } = scope;
  if (tracks === 'all') return true;
  return song.tracks.every(
    (t) => tracks.includes(t.id) || pitchedNotes(t, quarterTicks(song.division)).count === 0,
  );
}

/** The chord line goes with its song. */
function withItsChords(
  { song, report, ...rest }: Applied,
  scope: Scope,
  target: (key: number, tick: number) => number,
): Result<Applied> {
  const span = spanOf(song, scope);
  if (!span.ok) return span;
  const line = withChordsMoved(song, span.value, target);
  if (!line.ok) return line;
  const { odd, changes } = line.value;
  const had = new Map(report.changes.map((c) => [c.track, c]));
  for (const change of changes) {
    const known = had.get(change.track);
    had.set(
      change.track,
      known ? { ...known, counts: { ...change.counts, ...known.counts } } : change,
    );
  }
  return ok({
    ...rest,
    song: line.value.song,
    report: {
      ...report,
      changes: [...had.values()],
      skipped: [
        ...report.skipped,
        ...(odd > 0
          ? [{ why: `${counted(odd, 'chord')} of the chord line would have no name, and stay.` }]
          : []),
      ],
    },
  });
}

const signed = (n: number): string => `${n < 0 ? '−' : '+'}${Math.abs(n)}`;

/** Where a key goes at a tick; it may lie outside the keyboard. */
function targets(
  song: Song,
  {
    semitones,
    steps,
    tonic,
    mode,
  }: { semitones: number; steps: number; tonic: string; mode: Mode },
): (key: number, tick: number) => number {
  if (steps === 0) return (key) => key + semitones;
  if (tonic !== 'as in the song') {
    const named = { tonic: tonics.indexOf(tonic as (typeof tonics)[number]), mode };
    return (key) => byKeySteps(key, steps, named) + semitones;
  }
  const { keys } = timingOf(song);
  return (key, tick) =>
    byKeySteps(
      key,
      steps,
      keyOfSignature(
        keys.findLast((k) => k.atTick <= tick) ?? keys[0] ?? { sharps: 0, minor: false },
      ),
    ) + semitones;
}

/** The key brought into 0–127 by whole octaves. */
function folding(key: number): number {
  while (key < 0) key += 12;
  while (key > 127) key -= 12;
  return key;
}
