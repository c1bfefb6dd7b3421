import { z } from 'zod';
import { homeOf, makeParts, putPart } from '../../../edit/make-parts.ts';
import { newPartSettings, type PartNote } from '../../../edit/new-part.ts';
import { switchesIn, switchesMeta, switchWords } from '../../../edit/switches.ts';
import { counted } from '../../../edit/rewrite.ts';
import { pitchedNotes, type PitchedNotes } from '../../../harmony/pitched-notes.ts';
import { groupsOf, type NoteGroup } from '../../../harmony/voicings.ts';
import { notesOf } from '../../../song/notes.ts';
import type { TickSpan } from '../../../song/scope.ts';
import type { Track } from '../../../song/song.ts';
import { quarterTicks } from '../../../timing/meter-map.ts';
import { defineOperation } from '../../operation.ts';

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
    const { which } = asked;
    const home = homeOf(song, asked.to);
    if (!home.ok) return home;
    const quarter = quarterTicks(song.division);
    return makeParts(song, scope, (of) => {
      const { part, span, name } = of;
      if (part.id === asked.to) return 'It is the track itself.';
      const line = lineOf(part, quarter, span, which);
      if (line.length === 0) return 'It has no pitched notes there.';
      const switches = switchesIn(part, span);
      const along = asked.switches ? switches : [];
      return putPart(of, {
        home: home.value,
        name: asked.name || `${name}, ${which} line`,
        sound: asked,
        along: asked.along,
        notes: [...line, ...along],
        switches: along.length,
        details: [switchWords(switches.length, asked.switches)],
      });
    });
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
