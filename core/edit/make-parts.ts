import { ok, refused, type Result } from '../problems/problems.ts';
import { spanOf, tracksIn, type Scope, type TickSpan } from '../song/scope.ts';
import { findTrack, trackLabel, type Song, type Track } from '../song/song.ts';
import { markRows } from './named-rows.ts';
import { withNewPart, withNotesIn, type NewPart, type PartSound } from './new-part.ts';
import type { PartNote } from './part-notes.ts';
import type { Applied, Change, Report } from './report.ts';
import { counted } from './rewrite.ts';

/** A part that others are made of, in the song as it is by now. */
export interface MadeOf {
  readonly song: Song;
  readonly part: Track;
  readonly name: string;
  /** What of it is meant. */
  readonly span: TickSpan;
}

/** What came of a part, or why nothing did. */
export type Made = { readonly song: Song; readonly changes: readonly Change[] } | string;

/** Makes parts of every track of a scope, one after the other. */
export function makeParts(song: Song, scope: Scope, make: (of: MadeOf) => Made): Result<Applied> {
  const inScope = tracksIn(song, scope);
  if (!inScope.ok) return inScope;
  const span = spanOf(song, scope);
  if (!span.ok) return span;
  const changes: Change[] = [];
  const skipped: Report['skipped'][number][] = [];
  let now = song;
  for (const part of inScope.value) {
    const name = trackLabel(song, part);
    const rows = scope.rows?.[part.id];
    const meant = rows ? { ...span.value, rows: markRows(part.events, rows) } : span.value;
    const made = make({ song: now, part, name, span: meant });
    if (typeof made === 'string') skipped.push({ track: part.id, name, why: made });
    else {
      now = made.song;
      changes.push(...made.changes);
    }
  }
  return ok({ song: changes.length === 0 ? song : now, report: { changes, skipped } });
}

/** The track that notes are to go to; undefined for a new one. */
export function homeOf(song: Song, to: string | null): Result<Track | undefined> {
  const home = to === null ? undefined : findTrack(song, to);
  return to !== null && !home
    ? refused({ code: 'track-unknown', where: { field: 'settings.to' }, tracks: [to] })
    : ok(home);
}

/** Notes of a part that come; `switches` are those among them that are key switches, and no notes. */
interface Coming extends Pick<NewPart, 'along' | 'cents'> {
  readonly home: Track | undefined;
  readonly name: string;
  readonly sound: PartSound;
  readonly notes: readonly PartNote[];
  readonly switches: number;
  /** What else the report says. */
  readonly details: readonly (string | undefined)[];
}

/** Puts notes of a part on a new track behind it, or into one that is there, and says so. */
export function putPart({ song, part, name }: MadeOf, coming: Coming): Made {
  const { home, notes, switches } = coming;
  const put = home
    ? withNotesIn(song, part, findTrack(song, home.id)!, notes)
    : withNewPart(song, part, part.id, coming);
  const count = put.count - switches;
  if (count <= 0) return 'Every note of it would fall on one that sounds already.';
  const details = [
    `${counted(count, 'note')} of ${name}`,
    put.plays && `plays ${put.plays}`,
    ...coming.details,
    ...put.details,
  ];
  return {
    song: put.song,
    changes: [
      {
        track: put.track,
        name: put.name,
        did: put.added ? 'added' : 'changed',
        counts: { note: count },
        detail: details.filter(Boolean).join(', '),
      },
    ],
  };
}
