import { definitionSchema, type InstrumentDefinition } from '../instruments/definition.ts';
import { sentBy } from '../instruments/sent-by.ts';
import { soundName } from '../instruments/sounds.ts';
import { z } from 'zod';
import {
  channelEvent,
  endTick,
  eventAt,
  META,
  meta,
  metaEvent,
  type EventValue,
} from '../smf/events.ts';
import {
  channelsOf,
  trackId,
  trackName,
  withInstrument,
  type Song,
  type Track,
} from '../song/song.ts';
import { withTrackName } from '../song/track-name.ts';
import { mergeEvents } from '../smf/merge.ts';
import { factsOf } from '../song/track-facts.ts';
import { madeOf, openChannel, openName, standingOn } from './part-rooms.ts';
import {
  clearNotes,
  offRank,
  noteEvents,
  packed,
  pressures,
  type PartNote,
  type Placed,
} from './part-notes.ts';
import { protectOwnNotes } from './protect-own-notes.ts';
import { withTracks } from './track-list.ts';

export type { PartNote } from './part-notes.ts';

/** Settings that every step shares that makes a track. */
export const newPartSettings = {
  to: z.string().max(40).nullable().default(null).meta({
    title: 'To track',
    offers: 'track',
    description: 'Empty: a new track behind the part.',
  }),
  name: z
    .string()
    .trim()
    .max(200)
    .regex(/^\P{Cc}*$/u)
    .default('')
    .meta({ title: 'Name of the new track', description: 'Empty: after the part.' }),
  program: z.int().min(1).max(128).nullable().default(null).meta({
    title: 'Program of the new track',
    description: 'General MIDI program. Empty: what plays the part.',
    offers: 'program',
  }),
  definition: definitionSchema.nullable().default(null).meta({
    title: 'Its instrument, by a definition',
    offers: 'definition',
  }),
  channel: z.int().min(1).max(16).nullable().default(null).meta({
    title: 'Channel of the new track',
    description: 'Empty: one that is free.',
  }),
};

/** What plays a part that comes. */
export interface PartSound {
  readonly program: number | null;
  readonly definition: InstrumentDefinition | null;
  /** From 1. */
  readonly channel: number | null;
}

export interface NewPart {
  readonly name: string;
  readonly notes: readonly PartNote[];
  readonly sound: PartSound;
  /** Controllers, bend and pressure of the part go along. */
  readonly along: boolean;
  /** In hundredths of a semitone. */
  readonly cents?: number;
}

/** What came of notes that were put somewhere. */
export interface PutNotes {
  readonly song: Song;
  readonly track: string;
  readonly name: string;
  readonly count: number;
  readonly added: boolean;
  /** Notes of the part that had no room: indices into its notes. */
  readonly left: readonly number[];
  readonly details: readonly string[];
  /** What plays a new track, in words; nothing where it sounds as its part does, or as who shares its channel. */
  readonly plays?: string | undefined;
}

/**
 * A new track behind another whose notes it is made of, on a channel of its own where one is free. Programs
 * go along where no other sound is asked for, so that it sounds as the part does.
 */
export function withNewPart(song: Song, part: Track, behind: string, asked: NewPart): PutNotes {
  const own = channelsOf(part.events)[0] ?? 0;
  const free =
    asked.sound.channel === null ? openChannel(song, factsOf(part)) : asked.sound.channel - 1;
  const channel = free ?? own;
  const clear = clearNotes(asked.notes, standingOn(song, factsOf(part), channel));
  const shares = free === undefined;
  const events: Placed[] = [
    ...setUp(part, channel, own, asked).filter(({ event }) => !shares || event.status >= 0xf0),
    ...noteEvents(part, clear.notes, channel),
    ...(asked.along && !shares ? pressures(part, clear.notes, channel) : []),
    {
      event: metaEvent(
        Math.max(endTick(part.events), ...clear.notes.map((n) => n.to)),
        meta.endOfTrack,
      ),
      rank: 3,
    },
  ];
  const id = trackId(song.nextTrack);
  const name = openName(song, asked.name);
  // On a channel that was asked for others may play; on the part's own they do, and it says nothing there.
  const alone = { part: { id, events: packed(events) } as Track, said: [] as readonly string[] };
  const { part: bare, said } =
    asked.sound.channel === null ? alone : protectOwnNotes(song, [alone.part])[0]!;
  const isOwn = !shares && said.length === 0;
  const chosen =
    asked.sound.definition ?? (asked.sound.program === null ? part.instrument : undefined);
  const track = withInstrument(
    withTrackName(bare, name, song.encoding),
    isOwn ? chosen : part.instrument,
  );
  const at = song.tracks.findIndex((t) => t.id === behind) + 1;
  const tracks = song.tracks.toSpliced(at, 0, track);
  const made = withTracks(song, tracks, song.nextTrack + 1);
  madeOf(song, made, track);
  return {
    song: made,
    track: id,
    name,
    count: clear.notes.length,
    added: true,
    left: clear.left,
    plays: isOwn ? soundWords(asked.sound) : undefined,
    details: [
      ...clear.details,
      ...said,
      ...(shares
        ? [
            `no channel is free: it shares channel ${own + 1} with its part, and plays what that plays`,
          ]
        : []),
    ],
  };
}

/** The same notes in a track that is there, on the channel that it plays on. */
export function withNotesIn(
  song: Song,
  part: Track,
  home: Track,
  notes: readonly PartNote[],
): PutNotes {
  const channel = channelsOf(home.events)[0] ?? channelsOf(part.events)[0] ?? 0;
  const clear = clearNotes(notes, standingOn(song, factsOf(home), channel));
  const last = clear.notes.reduce((latest, n) => Math.max(latest, n.to), 0);
  const end = { event: metaEvent(last, meta.endOfTrack), rank: 3 };
  const put = noteEvents(part, clear.notes, channel);
  // What ends stands before what begins on its tick, and what begins behind what ends there.
  const [ends, begins] = [true, false].map((off) =>
    packed([...put.filter((e) => (e.rank === offRank) === off), end]),
  );
  const { facts: _, body: __, ...rest } = home;
  const merged: Track =
    clear.notes.length === 0
      ? home
      : { ...rest, events: mergeEvents([ends!, home.events, begins!]) };
  return {
    song: withTrack(song, home, merged),
    track: home.id,
    name: trackName(home, song.encoding),
    count: clear.notes.length,
    added: false,
    left: clear.left,
    details: clear.details,
  };
}

/** What sets a new part up: its port, what plays it, how it is tuned, and the controllers that go along. */
function setUp(part: Track, channel: number, own: number, asked: NewPart): Placed[] {
  const { events } = part;
  const { program, definition } = asked.sound;
  const chosen = definition
    ? sentBy(definition)
    : program === null
      ? undefined
      : { program: program - 1, bank: null };
  const list: Placed[] = [];
  const set = (event: EventValue, rank = 0): void => void list.push({ event, rank });
  for (let row = 0; row < events.count; row++) {
    const status = events.status[row]!;
    if (status === META) {
      if (events.data1[row] === meta.port) set(eventAt(events, row), -1);
      continue;
    }
    if (status >= 0xf0 || (status & 15) !== own) continue;
    const kind = status >> 4;
    const bank = kind === 0xb && (events.data1[row] === 0 || events.data1[row] === 32);
    const sound = kind === 0xc || bank;
    if (sound ? chosen !== undefined : !asked.along || kind < 0xb) continue;
    set({ ...eventAt(events, row), status: (status & 0xf0) | channel });
  }
  if (chosen) {
    if (chosen.bank !== null) {
      set(channelEvent(0, 0xb0 | channel, 0, chosen.bank >> 7));
      set(channelEvent(0, 0xb0 | channel, 32, chosen.bank & 127));
    }
    set(channelEvent(0, 0xc0 | channel, chosen.program));
  }
  if (asked.cents) for (const event of tunedBy(asked.cents, channel)) set(event);
  return list;
}

/** Channel fine tuning, RPN 1 (MIDI 1.0): 8192 is none, 100 cents are 8192 either way; and the null parameter behind it. */
function tunedBy(cents: number, channel: number): EventValue[] {
  const value = Math.min(16_383, Math.max(0, 8192 + Math.round((cents * 8192) / 100)));
  return (
    [
      [101, 0],
      [100, 1],
      [6, value >> 7],
      [38, value & 127],
      [101, 127],
      [100, 127],
    ] as const
  ).map(([controller, says]) => channelEvent(0, 0xb0 | channel, controller, says));
}

/** The song with another track in the place of one. */
export function withTrack(song: Song, was: Track, is: Track): Song {
  const at = song.tracks.findIndex((t) => t.id === was.id);
  const made = { ...song, tracks: song.tracks.with(at, is) };
  madeOf(song, made, is, was);
  return made;
}

/** What plays a new part, in words; undefined where it sounds as the part that it is made of. */
export const soundWords = ({ program, definition }: PartSound): string | undefined =>
  definition?.name ??
  (program === null ? undefined : soundName({ program: program - 1, bank: null }, false));
