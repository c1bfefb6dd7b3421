import { z } from 'zod';
import { definitionSchema } from '../../../instruments/definition.ts';
import { limitsOfDefinition, limitsOfSound } from '../../../instruments/limits.ts';
import { makeParts, type Made, type MadeOf } from '../../../edit/make-parts.ts';
import { withNewPart, withTrack, type PartNote } from '../../../edit/new-part.ts';
import { switchesIn, switchesMeta, switchWords } from '../../../edit/switches.ts';
import { counted, without } from '../../../edit/rewrite.ts';
import { pitchedNotes } from '../../../harmony/pitched-notes.ts';
import { shareOut, type Player } from '../../../harmony/players.ts';
import { groupsOf } from '../../../harmony/voicings.ts';
import { notesOf } from '../../../song/notes.ts';
import { dropPressure } from '../../../song/poly-pressure.ts';
import type { TickSpan } from '../../../song/scope.ts';
import { withEvents, type Song, type Track } from '../../../song/song.ts';
import { quarterTicks } from '../../../timing/meter-map.ts';
import { defineOperation, type Change } from '../../operation.ts';

const player = z.strictObject({
  name: z
    .string()
    .trim()
    .max(200)
    .regex(/^\P{Cc}*$/u)
    .default(''),
  program: z.int().min(1).max(128).nullable().default(null).meta({ offers: 'program' }),
  definition: definitionSchema.nullable().default(null).meta({ offers: 'definition' }),
  lowest: z.int().min(0).max(127).nullable().default(null),
  highest: z.int().min(0).max(127).nullable().default(null),
  octaves: z.int().min(-4).max(4).default(0),
});
type AskedPlayer = z.infer<typeof player>;

const settings = z.strictObject({
  players: z
    .array(player)
    .min(1)
    .max(16)
    .default(() => [1, 2, 3].map(() => player.parse({})))
    .meta({
      title: 'Players',
      description:
        'From the highest to the lowest: a name and an instrument each (empty: what plays the part), its lowest and highest key (empty: what the instrument can play), and octaves by which its line is moved.',
      offers: 'players',
    }),
  by: z.enum(['from the top', 'from the bottom', 'shortest ways']).default('from the top').meta({
    title: 'Shared out',
    description:
      'By voice, counted from the top or the bottom; or each note to who has the shortest way to it.',
  }),
  fewer: z.enum(['rest', 'double']).default('rest').meta({
    title: 'Where there are fewer notes than players',
    description: 'Those without a note rest, or double the nearest that they can play.',
  }),
  along: z.boolean().default(true).meta({ title: 'Controllers go along' }),
  switches: z.boolean().default(false).meta(switchesMeta),
  keep: z.boolean().default(false).meta({
    title: 'The part keeps its notes',
    description: 'Else only what nobody can play is left in it.',
  }),
});
type Settings = z.infer<typeof settings>;

export const notesShare = defineOperation({
  id: 'notes.share',
  version: 1,
  title: 'Share chords out among players',
  summary:
    'Gives each note of chords to a player, one note at a time each, within what each can play; what nobody can play stays in the part and is said.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings,
  apply: (song, asked, scope) =>
    makeParts(song, scope, (of) => {
      const shared = sharedOut(of.song, of.part, asked, of.span);
      return typeof shared === 'string' ? shared : withPlayers(of, asked, shared);
    }),
  describe: ({ by }, { changes }) => {
    const players = changes.filter((c) => c.did === 'added');
    return players.length === 0
      ? 'Shared nothing out'
      : `Shared ${counted(
          players.reduce((sum, c) => sum + (c.counts['note'] ?? 0), 0),
          'note',
        )} out among ${counted(players.length, 'player')}, ${by}`;
  },
  examples: [
    { says: 'Among three, by voice from the top', settings: {} },
    {
      says: 'Two flutes and a clarinet, each the shortest way',
      settings: {
        by: 'shortest ways',
        players: [
          { name: 'Flute 1', program: 74 },
          { name: 'Flute 2', program: 74 },
          { name: 'Clarinet', program: 72 },
        ],
      },
    },
    {
      says: 'Two who double where there is one note; the part stays',
      settings: { players: [{}, {}], fewer: 'double', keep: true },
    },
  ],
});

interface Shared {
  /** By player. */
  readonly lines: readonly (readonly PartNote[])[];
  /** Notes of the part that somebody plays. */
  readonly played: ReadonlySet<number>;
  /** Notes that nobody can play, and chords in which somebody rests. */
  readonly unplayed: number;
  readonly rests: number;
  readonly doubled: number;
  readonly switches: readonly PartNote[];
}

/** What a player can play: what is asked, else what the instrument has. */
function rangeOf({ lowest, highest, program, definition, octaves }: AskedPlayer): Player {
  const limits = definition
    ? limitsOfDefinition(definition)
    : program === null
      ? undefined
      : limitsOfSound(program - 1, false);
  const [from, to] = limits?.playable ?? [0, 127];
  return { lowest: lowest ?? from, highest: highest ?? to, octaves };
}

/** A note that lasts less than this part of what it sounds with into the next has ended for it. */
const stillSounds = 1 / 8;

function sharedOut(song: Song, part: Track, asked: Settings, span: TickSpan): Shared | string {
  const quarter = quarterTicks(song.division);
  const pitched = pitchedNotes(part, quarter);
  const indexOfRow = new Map(Array.from(notesOf(part.events).on, (row, n) => [row, n]));
  const groups = groupsOf(part, quarter, span);
  if (groups.length === 0) return 'It has no pitched notes there.';
  const players = asked.players.map(rangeOf);
  const lines = players.map((): PartNote[] => []);
  const played = new Set<number>();
  const last = players.map((): number | undefined => undefined);
  const until = players.map(() => -Infinity);
  const totals = { unplayed: 0, rests: 0, doubled: 0 };
  for (const { atTick, notes } of groups) {
    const keys = notes.map((n) => pitched.key[n]!);
    const free = until.map((to) => to - atTick <= quarter * stillSounds);
    const given = shareOut(keys, players, asked.by, last, free);
    const put = (n: number, who: number): void => {
      const { octaves } = players[who]!;
      const key = pitched.key[n]! + octaves * 12;
      lines[who]!.push({
        of: indexOfRow.get(pitched.row[n]!)!,
        key,
        from: pitched.from[n]!,
        to: pitched.to[n]!,
      });
      last[who] = key;
      until[who] = pitched.to[n]!;
    };
    given.forEach((who, place) => {
      if (who === -1) return void totals.unplayed++;
      put(notes[place]!, who);
      played.add(indexOfRow.get(pitched.row[notes[place]!]!)!);
    });
    players.forEach((able, who) => {
      if (given.includes(who) || !free[who]) return;
      const near = asked.fewer === 'double' ? nearestFor(able, keys, last[who]) : -1;
      if (near === -1) totals.rests++;
      else {
        put(notes[near]!, who);
        totals.doubled++;
      }
    });
  }
  if (played.size === 0) return 'Nobody can play any of its notes there.';
  return { lines: lines.map(oneAtATime), played, ...totals, switches: switchesIn(part, span) };
}

/** Place of the note of a chord that a player can play and has the shortest way to; −1 for none. */
function nearestFor(
  { lowest, highest, octaves }: Player,
  keys: readonly number[],
  last?: number,
): number {
  let best = -1;
  const away = (place: number): number =>
    Math.abs(keys[place]! + octaves * 12 - (last ?? (lowest + highest) / 2));
  keys.forEach((key, place) => {
    const sounds = key + octaves * 12;
    if (sounds < lowest || sounds > highest) return;
    if (best === -1 || away(place) < away(best)) best = place;
  });
  return best;
}

/** A player sounds one note at a time: each ends where the next begins. */
const oneAtATime = (line: readonly PartNote[]): PartNote[] =>
  line.map((note, n) => ({
    ...note,
    to: Math.max(note.from + 1, Math.min(note.to, line[n + 1]?.from ?? Infinity)),
  }));

function withPlayers({ song, part, name }: MadeOf, asked: Settings, shared: Shared): Made {
  const changes: Change[] = [];
  // What is shared out is out of the way of those who play it.
  const left = asked.keep ? undefined : withoutNotes(part, shared.played);
  let now = left ? withTrack(song, part, left) : song;
  let behind = part.id;
  // What had no room on a channel that is shared stays in the part.
  const stays = new Set<number>();
  asked.players.forEach((who, n) => {
    const line = shared.lines[n]!;
    if (line.length === 0) return;
    const along = asked.switches ? shared.switches : [];
    const put = withNewPart(now, part, behind, {
      name: who.name || `${name} ${n + 1}`,
      notes: [...line, ...along],
      sound: { ...who, channel: null },
      along: asked.along,
    });
    now = put.song;
    behind = put.track;
    put.left.forEach((note) => stays.add(note));
    changes.push({
      track: put.track,
      name: put.name,
      did: 'added',
      counts: { note: put.count - along.length },
      detail: [
        `${counted(put.count - along.length, 'note')} of ${name}`,
        switchWords(along.length, true),
        put.plays && `plays ${put.plays}`,
        who.octaves !== 0 &&
          `${counted(Math.abs(who.octaves), 'octave')} ${who.octaves > 0 ? 'up' : 'down'}`,
        ...put.details,
      ]
        .filter(Boolean)
        .join(', '),
    });
  });
  const idle = asked.players.flatMap((who, n) =>
    shared.lines[n]!.length === 0 ? [who.name || `${name} ${n + 1}`] : [],
  );
  const words = [
    idle.length > 0 && `${idle.join(', ')}: no note is left to play, no track made`,
    shared.unplayed > 0 &&
      `${counted(shared.unplayed, 'note')} that nobody can play ${shared.unplayed === 1 ? 'stays' : 'stay'} in it`,
    shared.rests > 0 && `${counted(shared.rests, 'time')} somebody rests`,
    !asked.switches && switchWords(shared.switches.length, false),
    shared.doubled > 0 && `${counted(shared.doubled, 'note')} doubled`,
  ].filter(Boolean);
  const taken = new Set([...shared.played].filter((note) => !stays.has(note)));
  if (left)
    changes.push({
      track: part.id,
      name,
      did: 'changed',
      counts: { note: taken.size },
      detail: [`${counted(taken.size, 'note')} taken out`, ...words].join(', '),
    });
  else if (words.length > 0 && changes.length > 0) {
    const first = changes.at(-1)!;
    changes[changes.length - 1] = { ...first, detail: [first.detail, ...words].join(', ') };
  }
  if (!left || stays.size === 0) return { song: now, changes };
  return { song: withTrack(now, left, withoutNotes(part, taken)), changes };
}

/** The part without these notes, and without what pressed them. */
function withoutNotes(part: Track, played: ReadonlySet<number>): Track {
  const { events } = part;
  const notes = notesOf(events);
  const dropped = new Uint8Array(events.count);
  for (const n of played) {
    dropped[notes.on[n]!] = 1;
    if (notes.off[n] !== -1) dropped[notes.off[n]!] = 1;
  }
  dropPressure(events, notes, dropped);
  return withEvents(part, without(events, (row) => dropped[row] === 1) ?? events);
}
