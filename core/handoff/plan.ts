import { ok, refused, type Result } from '../problems/problems.ts';
import { runStep } from '../operations/run.ts';
import { percussionChannel } from '../instruments/general-midi.ts';
import type { Song } from '../song/song.ts';
import { factsOf } from '../song/track-facts.ts';
import { cutsOf, leavingBars, nothing } from './cuts.ts';
import { factsForName } from './name-facts.ts';
import { checkedPattern, namesBy, usualPattern } from './names.ts';
import { nameStyles } from './short-names.ts';
import type { Part } from './part/piece.ts';
import type { Section } from '../timing/sections.ts';
import type { Wanted } from './settings.ts';
import type { Leaving } from './take-settings.ts';

/** One file of a handoff before it is made. */
export interface PlannedFile extends Part {
  readonly name: string;
}

export interface Plan {
  /** The song that the files are parts of: its drums each on a track where that was asked for. */
  readonly song: Song;
  /** By the id of a track that was split off a track of drums, that track's. */
  readonly parents: ReadonlyMap<string, string>;
  /** Channels by a list, each drum of a track that was split among them. */
  readonly channels: Leaving['channels'];
  readonly files: readonly PlannedFile[];
  /** What does not leave, and what was mended in names. */
  readonly notes: readonly string[];
}

/** What else a plan is made from. */
export interface Around {
  /** Ending of a single file. */
  readonly ending: string;
  /** What {version} says. */
  readonly version: string;
  /** Also those that are kept here and not sent. */
  readonly sections: readonly Section[];
  /** Tracks that a recipe took out of the copy that leaves; asked for, they are none. */
  readonly gone: ReadonlySet<string>;
}

/** More files are not made at once. */
export const mostFiles = 5000;

/** Which files a handoff has, and what they are called. The song is as it is sent. */
export function planOf(
  sent: Song,
  asked: Wanted,
  { ending, version, sections, gone }: Around,
): Result<Plan> {
  const wanted = withoutGone(asked, gone);
  const pattern = checkedPattern(
    wanted.names ?? usualPattern(wanted.divide, wanted.form.fileNames),
  );
  if (!pattern.ok) return pattern;
  const split = withDrumsSplit(sent, wanted);
  const { song } = split;
  const chosen = chosenTracks(sent, split.parts, wanted);
  if (!chosen.ok) return chosen;
  const base = leavingBars(song, wanted, chosen.value);
  if (!base.ok) return base;
  const channels = channelsOf(sent, split.parts, wanted);
  if (!channels.ok) return channels;
  const { parts, drums } = split;
  const cutting = { chosen: chosen.value, base: base.value, drums, parts, sections };
  const cuts = cutsOf(song, wanted, cutting);
  if (!cuts.ok) return cuts;
  const { cuts: all, notes } = cuts.value;
  if (all.length > mostFiles)
    return nothing(
      `That makes ${all.length.toLocaleString('en')} files, and ${mostFiles.toLocaleString('en')} at once is the most`,
      'Choose fewer tracks or bars.',
    );
  const named = namesBy(
    pattern.value,
    all.map((cut, n) => factsForName(song, cut, { number: n + 1, of: all.length, version })),
    wanted.form.ending ?? (wanted.form.format === 'karaoke' ? '.kar' : ending),
    nameStyles[wanted.form.fileNames],
  );
  return ok({
    song,
    parents: new Map([...parts].flatMap(([of, ids]) => ids.map((id) => [id, of] as const))),
    channels: channels.value,
    files: all.map((cut, n) => ({ ...cut, name: named.names[n]! })),
    notes: [...split.notes, ...base.value.notes, ...notes, ...named.notes],
  });
}

/** The settings without tracks that are gone: a step took them, nobody mistyped them. */
function withoutGone(wanted: Wanted, gone: ReadonlySet<string>): Wanted {
  if (gone.size === 0) return wanted;
  const left = (ids: readonly string[]): string[] => ids.filter((id) => !gone.has(id));
  const { tracks, scope, groups, take } = wanted;
  return {
    ...wanted,
    ...(Array.isArray(tracks) ? { tracks: left(tracks) } : {}),
    ...(scope && Array.isArray(scope.tracks)
      ? { scope: { ...scope, tracks: left(scope.tracks) } }
      : {}),
    groups: groups.map((g) => ({ ...g, tracks: left(g.tracks) })),
    take: {
      ...take,
      channels:
        typeof take.channels === 'string'
          ? take.channels
          : take.channels.filter((c) => !gone.has(c.track)),
    },
  };
}

interface Split {
  readonly song: Song;
  /** Ids of the tracks that a split track became, by its id. */
  readonly parts: ReadonlyMap<string, readonly string[]>;
  readonly drums: ReadonlySet<string>;
  readonly notes: readonly string[];
}

/** The song with each drum on its own track, where files or tracks of drums were asked for. */
function withDrumsSplit(song: Song, { divide, form }: Wanted): Split {
  const none = { song, parts: new Map(), drums: new Set<string>(), notes: [] };
  if (divide !== 'drums' && form.drums === 'as they are') return none;
  const drums = song.tracks.filter((t) => factsOf(t).channels & (1 << percussionChannel));
  if (drums.length === 0) return none;
  const made = runStep(song, {
    operation: 'tracks.split-by-drum',
    settings: { along: true },
    scope: { tracks: drums.map((t) => t.id) },
  });
  if (!made.ok) return none;
  const known = new Set(song.tracks.map((t) => t.id));
  const parts = new Map<string, string[]>();
  let of = '';
  for (const { id } of made.value.song.tracks)
    if (known.has(id)) parts.set((of = id), [id]);
    else parts.get(of)!.push(id);
  const ids = new Set(drums.flatMap((t) => parts.get(t.id)!));
  const skipped = made.value.report.skipped.filter((s) => s.why.includes('outside'));
  const notes = skipped.map((s) => `${s.name} stays one track: ${s.why}`);
  return { song: made.value.song, parts, drums: ids, notes };
}

/** The tracks that were chosen, in the song's order; a drum track that was split stands for its drums. */
function chosenTracks(
  sent: Song,
  parts: Split['parts'],
  { tracks, scope, groups, divide }: Wanted,
): Result<ReadonlySet<string> | 'all'> {
  const inGroups = groups.flatMap((g) => g.tracks);
  const said = divide === 'groups' ? inGroups : (tracks ?? scope?.tracks);
  if (said === undefined || said === 'all') return ok('all');
  const known = allKnown(sent, said, 'tracks');
  if (!known.ok) return known;
  // Of groups it is said which of them is empty.
  if (said.length === 0 && divide !== 'groups')
    return nothing('No track is chosen', 'Choose the tracks that are to leave.');
  return ok(new Set(said.flatMap((id) => parts.get(id) ?? [id])));
}

function allKnown(sent: Song, ids: readonly string[], field: string): Result<true> {
  const known = new Set(sent.tracks.map((t) => t.id));
  const unknown = [...new Set(ids)].filter((id) => !known.has(id));
  if (unknown.length === 0) return ok(true);
  return refused({ code: 'scope-unknown-track', where: { field }, tracks: unknown });
}

/** The channels that tracks leave on: where a drum track was split, each of its drums on the one it was to have. */
function channelsOf(
  sent: Song,
  parts: Split['parts'],
  { take: { channels } }: Wanted,
): Result<Leaving['channels']> {
  if (typeof channels === 'string') return ok(channels);
  const known = allKnown(
    sent,
    channels.map((c) => c.track),
    'take.channels',
  );
  if (!known.ok) return known;
  return ok(
    channels.flatMap(({ track, channel }) =>
      (parts.get(track) ?? [track]).map((id) => ({ track: id, channel })),
    ),
  );
}
