/**
 * Everything that can be wrong with what somebody gives us, as data.
 * A problem holds facts only; the sentences stand in `sentences.ts` and nowhere else.
 */

/** Where a problem lies. Only what is known is given. `track` counts from 1, `byte` from the start of the file. */
export interface Where {
  readonly file?: string;
  readonly chunk?: string;
  readonly track?: number;
  readonly byte?: number;
  readonly tick?: number;
  readonly field?: string;
  readonly id?: string;
}

/** What can be found wrong while reading a file; each is mended while reading and said. */
export type ReadingProblem =
  | { code: 'header-missing'; where: Where }
  | { code: 'header-late'; where: Where; bytes: number }
  | { code: 'header-damaged'; where: Where }
  | { code: 'held-in'; where: Where; looksLike: string }
  | { code: 'several-files'; where: Where; files: number }
  | { code: 'track-id'; where: Where; id: string }
  | { code: 'time-lost'; where: Where; ticks: number }
  | { code: 'track-damaged'; where: Where; bytes: number }
  | { code: 'track-head'; where: Where }
  | { code: 'header-short'; where: Where; length: number }
  | { code: 'format-unknown'; where: Where; format: number; taken: number }
  | { code: 'format0-many-tracks'; where: Where; tracks: number }
  | { code: 'division-invalid'; where: Where; division: number; taken: number }
  | { code: 'track-count'; where: Where; stated: number; found: number }
  | { code: 'chunk-cut'; where: Where; stated: number; present: number }
  | { code: 'chunk-length'; where: Where; stated: number; used: number }
  | { code: 'bytes-between-chunks'; where: Where; bytes: number }
  | { code: 'end-of-track-missing'; where: Where }
  | { code: 'end-of-track-early'; where: Where }
  | { code: 'bytes-after-end'; where: Where; bytes: number }
  | { code: 'event-cut'; where: Where }
  | { code: 'delta-too-long'; where: Where }
  | { code: 'length-too-long'; where: Where; stated: number; present: number }
  | { code: 'status-missing'; where: Where; bytes: number }
  | { code: 'running-status-after-meta'; where: Where; times: number }
  | { code: 'status-not-in-files'; where: Where; status: number }
  | { code: 'data-byte-high'; where: Where; value: number; times: number }
  | { code: 'meta-length'; where: Where; meta: number; stated: number; usual: number }
  | { code: 'tempo-zero'; where: Where }
  | { code: 'not-split'; where: Where }
  | { code: 'wrapper-size'; where: Where; stated: number; present: number }
  | { code: 'more-problems'; where: Where; left: number };

/** Why a file is refused whole. `looksLike` is a plain name of what it seems to be. */
export type RefusalProblem =
  | { code: 'file-empty'; where: Where }
  | { code: 'not-midi'; where: Where; looksLike: string; remedy: string }
  | { code: 'no-tracks'; where: Where }
  | { code: 'too-many-events'; where: Where; most: number }
  | { code: 'too-many-chunks'; where: Where; most: number }
  | { code: 'too-many-files'; where: Where; most: number };

/** What a request can get wrong; the server gives each a 4xx. */
export type RequestProblem =
  | { code: 'song-unknown'; where: Where }
  | { code: 'handoff-unknown'; where: Where }
  | { code: 'file-unknown'; where: Where }
  | { code: 'handoff-nothing'; where: Where; why: string; remedy: string }
  | { code: 'handoff-unproven'; where: Where; differences: string }
  | { code: 'blob-unknown'; where: Where }
  | { code: 'original-unknown'; where: Where }
  | { code: 'sounds-missing'; where: Where }
  | { code: 'clip-unknown'; where: Where }
  | { code: 'clip-twin'; where: Where; name: string }
  | { code: 'folder-into-itself'; where: Where; from: string; to: string }
  | { code: 'bank-unknown'; where: Where }
  | { code: 'bank-unreadable'; where: Where; expected: string; found: string }
  | { code: 'route-unknown'; where: Where }
  | { code: 'operation-unknown'; where: Where; known: readonly string[] }
  | { code: 'settings-invalid'; where: Where; expected: string; found: string }
  | { code: 'scope-unknown-track'; where: Where; tracks: readonly string[] }
  | { code: 'scope-behind-end'; where: Where; from: number; bars: number }
  | { code: 'scope-has-bars'; where: Where }
  | { code: 'scope-has-rows'; where: Where }
  | { code: 'scope-rows-stale'; where: Where; given: number; head: number }
  | { code: 'scope-without-bars'; where: Where }
  | { code: 'bars-behind-end'; where: Where; bar: number; bars: number }
  | { code: 'chord-unreadable'; where: Where; typed: string; bar?: number }
  | { code: 'bars-clash'; where: Where; bar: number; at: number }
  | { code: 'bars-into-themselves'; where: Where; from: number; to: number; bar: number }
  | { code: 'track-unknown'; where: Where; tracks: readonly string[] }
  | { code: 'no-track-left'; where: Where }
  | { code: 'source-missing'; where: Where; source: string; blank: boolean }
  | { code: 'recipe-tracks-missing'; where: Where; names: readonly string[] }
  | { code: 'recipe-unknown'; where: Where }
  | { code: 'recipe-shipped'; where: Where }
  | { code: 'key-clash'; where: Where; title: string; given: string; by: string }
  | { code: 'receiver-unknown'; where: Where }
  | { code: 'receiver-shipped'; where: Where }
  | { code: 'link-unknown'; where: Where }
  | { code: 'satchel-unreadable'; where: Where; why: string }
  | { code: 'satchel-newer'; where: Where; version: number; known: number }
  | { code: 'instrument-unknown'; where: Where }
  | { code: 'instrument-along'; where: Where }
  | { code: 'instruments-unreadable'; where: Where; why: string }
  | { code: 'instruments-of-several'; where: Where; devices: readonly string[] }
  | { code: 'xml-unreadable'; where: Where; why: string }
  | { code: 'revision-stale'; where: Where; given: number; head: number }
  | { code: 'revision-unknown'; where: Where; given: number }
  | { code: 'nothing-to-undo'; where: Where }
  | { code: 'nothing-to-redo'; where: Where }
  | { code: 'file-too-large'; where: Where; mostBytes: number; setting: string }
  | { code: 'no-room'; where: Where }
  | { code: 'files-too-many'; where: Where; most: number }
  | { code: 'archive-unreadable'; where: Where; why: string }
  | { code: 'archive-too-large'; where: Where; maxBytes: number; bytes: number }
  | { code: 'list-too-large'; where: Where; maxBytes: number; bytes: number }
  | { code: 'checksum-wrong'; where: Where }
  | { code: 'file-missing'; where: Where }
  | { code: 'file-name-invalid'; where: Where; why: string }
  | { code: 'content-type-wrong'; where: Where; expected: string; found: string }
  | { code: 'body-unreadable'; where: Where; why: string }
  | { code: 'body-too-wide'; where: Where; maxKeys: number; keys: number }
  | { code: 'host-foreign'; where: Where; found: string }
  | { code: 'origin-foreign'; where: Where; found: string }
  | { code: 'work-stopped'; where: Where; why: string }
  | { code: 'reading-stopped'; where: Where; why: string }
  | { code: 'tick-too-far'; where: Where; name: string }
  | { code: 'gap-too-long'; where: Where; name: string }
  | { code: 'busy'; where: Where }
  | { code: 'database-away'; where: Where; isUnsure?: boolean }
  | { code: 'defect'; where: Where };

export type Problem = ReadingProblem | RefusalProblem | RequestProblem;
export type ProblemCode = Problem['code'];

/** A problem in words: the one error shape of the API. */
export interface ProblemText {
  readonly code: ProblemCode;
  readonly message: string;
  readonly where: Where;
  readonly expected: string;
  readonly found: string;
  readonly remedy: string;
}

/** Outside data gives a value or the problem that stands in its way; only a programmer's mistake throws. */
export type Result<T, P = Problem> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: P };

export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });
export const refused = <P>(problem: P): { readonly ok: false; readonly problem: P } => ({
  ok: false,
  problem,
});
