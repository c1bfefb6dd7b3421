import { z } from 'zod';
import {
  newPartSettings,
  soundWords,
  withNewPart,
  withNotesIn,
  type PartNote,
} from '../../../edit/new-part.ts';
import { markRows } from '../../../edit/named-rows.ts';
import { switchesIn, switchesMeta, switchWords } from '../../../edit/switches.ts';
import { counted } from '../../../edit/rewrite.ts';
import { pitchedNotes, type PitchedNotes } from '../../../harmony/pitched-notes.ts';
import { groupsOf, type NoteGroup } from '../../../harmony/voicings.ts';
import { ok, refused } from '../../../problems/problems.ts';
import { notesOf } from '../../../song/notes.ts';
import { spanOf, tracksIn, type TickSpan } from '../../../song/scope.ts';
import { findTrack, trackLabel, type Track } from '../../../song/song.ts';
import { quarterTicks } from '../../../timing/meter-map.ts';
import { defineOperation, type Change, type Report } from '../../operation.ts';

const lines = ['top', 'bottom', 'most moving'] as const;

export const notesLine = defineOperation({
  id: 'notes.line',
  version: 1,
  title: 'Pull a line out of chords',
  summary:
    'Copies the top notes of chords, the bottom ones or the voice that moves most, one at a time, to a new track or to one that is there.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    which: z.enum(lines).default('top').meta({ title: 'Line' }),
    ...newPartSettings,
    along: z.boolean().default(true).meta({
      title: 'Controllers go along',
      description: 'To a new track: controllers, bend and pressure.',
    }),
    switches: z.boolean().default(false).meta(switchesMeta),
  }),
  apply(song, asked, scope) {
    const { to, which } = asked;
    const home = to === null ? undefined : findTrack(song, to);
    if (to !== null && !home)
      return refused({ code: 'track-unknown', where: { field: 'settings.to' }, tracks: [to] });
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const span = spanOf(song, scope);
    if (!span.ok) return span;
    const quarter = quarterTicks(song.division);
    const changes: Change[] = [];
    const skipped: Report['skipped'][number][] = [];
    let now = song;
    for (const part of inScope.value) {
      const name = trackLabel(song, part);
      const rows = scope.rows?.[part.id];
      const meant = rows ? { ...span.value, rows: markRows(part.events, rows) } : span.value;
      const line = part.id === to ? undefined : lineOf(part, quarter, meant, which);
      if (!line || line.length === 0) {
        const why = line ? 'It has no pitched notes there.' : 'It is the track itself.';
        skipped.push({ track: part.id, name, why });
        continue;
      }
      const switches = switchesIn(part, meant);
      const along = asked.switches ? switches : [];
      const notes = [...line, ...along];
      const put = home
        ? withNotesIn(now, part, findTrack(now, home.id)!, notes)
        : withNewPart(now, part, part.id, {
            name: asked.name || `${name}, ${which} line`,
            notes,
            sound: asked,
            along: asked.along,
          });
      const count = put.count - along.length;
      if (count <= 0) {
        skipped.push({
          track: part.id,
          name,
          why: 'Every note of it would fall on one that sounds already.',
        });
        continue;
      }
      now = put.song;
      const plays = home ? undefined : soundWords(asked);
      changes.push({
        track: put.track,
        name: put.name,
        did: put.added ? 'added' : 'changed',
        counts: { note: count },
        detail: [
          `${counted(count, 'note')} of ${name}`,
          switchWords(switches.length, asked.switches),
          plays && `plays ${plays}`,
          ...put.details,
        ]
          .filter(Boolean)
          .join(', '),
      });
    }
    return ok({ song: changes.length === 0 ? song : now, report: { changes, skipped } });
  },
  describe: ({ which }, { changes }) =>
    changes.length === 0
      ? 'Pulled out no line'
      : `Pulled the ${which} line out of ${counted(changes.length, 'part')}`,
  examples: [
    { says: 'The top line', settings: {} },
    { says: 'The bass, as a double bass', settings: { which: 'bottom', program: 44 } },
    { says: 'The voice that moves most', settings: { which: 'most moving' } },
  ],
});

/** The notes of a line of a part, none lasting into the next. */
function lineOf(
  part: Track,
  quarter: number,
  span: TickSpan,
  which: (typeof lines)[number],
): PartNote[] {
  const pitched = pitchedNotes(part, quarter);
  const groups = groupsOf(part, quarter, span);
  const taken = taking(groups, pitched, which);
  const notes = notesOf(part.events);
  const byRow = new Map(Array.from(notes.on, (row, n) => [row, n]));
  return taken.map((n, place) => ({
    of: byRow.get(pitched.row[n]!)!,
    key: pitched.key[n]!,
    from: pitched.from[n]!,
    to: Math.max(
      pitched.from[n]! + 1,
      Math.min(
        pitched.to[n]!,
        place + 1 < taken.length ? pitched.from[taken[place + 1]!]! : Infinity,
      ),
    ),
  }));
}

/** Indices of the pitched notes of a line. */
function taking(
  groups: readonly NoteGroup[],
  { key }: PitchedNotes,
  which: (typeof lines)[number],
): number[] {
  if (which === 'top') return groups.map(({ notes }) => notes.at(-1)!);
  if (which === 'bottom') return groups.map(({ notes }) => notes[0]!);
  // Voices are counted from the top; the one that goes to another key most often moves most.
  const voices: number[][] = [];
  for (const { notes } of groups)
    [...notes].reverse().forEach((n, voice) => (voices[voice] ??= []).push(n));
  const moves = (voice: readonly number[]): number =>
    voice.filter((n, i) => i > 0 && key[n] !== key[voice[i - 1]!]).length;
  return voices.reduce(
    (best, voice) => (moves(voice) > moves(best) ? voice : best),
    voices[0] ?? [],
  );
}
