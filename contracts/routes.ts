import {
  addClipsQuerySchema,
  clipChangeSchema,
  clipListSchema,
  clipQuerySchema,
  clipSchema,
  clipsAddedSchema,
  cutClipSchema,
  folderListSchema,
  folderMoveSchema,
} from './shelf.ts';
import { bankListSchema, bankViewSchema } from './banks.ts';
import { z } from 'zod';
import { beginSchema } from '#core/work/begin.ts';
import { definitionSchema } from '#core/instruments/definition.ts';
import type { RouteName } from './addresses.ts';
import type { Route } from './route.ts';
import { findingListSchema, leaveSchema } from './findings.ts';
import { guessesSchema } from './guesses.ts';
import { barsQuerySchema, chordsSchema, keysSchema } from './harmony.ts';
import { handoffRoutes } from './handoff-routes.ts';
import { receiverRoutes } from './receiver-routes.ts';
import {
  instrumentFileQuerySchema,
  instrumentListSchema,
  instrumentsReadSchema,
  instrumentViewSchema,
  newInstrumentsSchema,
} from './instruments.ts';
import { recipeRoutes } from './recipe-routes.ts';
import type { Shown } from '#core/units/shown.ts';
import {
  blobsSchema,
  originalSchema,
  originalsSchema,
  removedSchema,
  songListQuerySchema,
  songListSchema,
  songRowSchema,
  taggedSchema,
  tagSongSchema,
  songSchema,
  tempoListSchema,
  uploadedSchema,
  fileSourceSchema,
} from './songs.ts';
import {
  moveSchema,
  goSchema,
  movedSchema,
  operationListSchema,
  stepBarsSchema,
  stepListSchema,
  stepRequestSchema,
  stepResultSchema,
} from './steps.ts';

export const routes = {
  bringIn: {
    tag: 'songs',
    summary: 'Bring in one or many files, or begin a song with nothing',
    body: 'files',
    orBody: beginSchema,
    status: 201,
    answer: uploadedSchema,
    errors: [422, 429],
  },
  listSongs: {
    tag: 'songs',
    summary: 'The songs, a page at a time',
    query: songListQuerySchema,
    status: 200,
    answer: songListSchema,
    errors: [],
  },
  getSong: {
    tag: 'songs',
    summary: 'A song: its tracks, what each carries, and the timing',
    status: 200,
    answer: songSchema,
    errors: [404, 422, 429],
  },
  removeSong: {
    tag: 'songs',
    summary: 'Remove a song; it can be restored until it is purged',
    status: 200,
    answer: removedSchema,
    errors: [404],
  },
  restoreSong: {
    tag: 'songs',
    summary: 'Bring a removed song back',
    status: 200,
    answer: songRowSchema,
    errors: [404],
  },
  tagSong: {
    tag: 'songs',
    summary: 'Put words to a song, in place of those it has; the list finds it by them',
    body: tagSongSchema,
    status: 200,
    answer: taggedSchema,
    errors: [404],
  },
  getTempos: {
    tag: 'songs',
    summary: 'Every tempo of a song, where it lists only the first',
    status: 200,
    answer: tempoListSchema,
    errors: [404, 422, 429],
  },
  listGuesses: {
    tag: 'songs',
    summary: 'What may play each track, by its name, its notes and its place among the others',
    status: 200,
    answer: guessesSchema,
    errors: [404, 422, 429],
  },
  listChords: {
    tag: 'songs',
    summary: 'The chords of a song, or of some bars, told from what sounds',
    query: barsQuerySchema,
    status: 200,
    answer: chordsSchema,
    errors: [400, 404, 422, 429],
  },
  listKeys: {
    tag: 'songs',
    summary: 'The keys of a song, told from what sounds: of each section, or from change to change',
    status: 200,
    answer: keysSchema,
    errors: [404, 422, 429],
  },
  getMap: {
    tag: 'songs',
    summary:
      'The map alone as a MIDI file: tempos, meters, keys, markers, sections, timecode and length, and no music',
    status: 200,
    answer: 'audio/midi',
    errors: [404, 422, 429],
  },
  getOriginal: {
    tag: 'songs',
    summary: 'The file exactly as it was received',
    status: 200,
    answer: 'audio/midi',
    errors: [404],
  },
  addOriginals: {
    tag: 'songs',
    summary: 'Keep files without making songs of them, and say what they hold: sources for steps',
    body: 'files',
    status: 201,
    answer: originalsSchema,
    errors: [422, 429],
  },
  getContents: {
    tag: 'songs',
    summary: 'What a file holds that was brought in or kept, by the SHA-256 of its bytes',
    status: 200,
    answer: originalSchema,
    errors: [404, 422, 429],
  },
  getFile: {
    tag: 'songs',
    summary: 'A file that was brought in or kept, exactly as it came, by the SHA-256 of its bytes',
    status: 200,
    answer: 'audio/midi',
    errors: [404],
  },
  getFileSource: {
    tag: 'songs',
    summary: 'Get the source of a file, as a user entered it',
    status: 200,
    answer: fileSourceSchema,
    errors: [404],
  },
  setFileSource: {
    tag: 'songs',
    summary: 'Set the source of a file. It is kept with the file, and delivery slips repeat it',
    body: fileSourceSchema,
    status: 200,
    answer: fileSourceSchema,
    errors: [404],
  },
  listOperations: {
    tag: 'steps',
    summary: 'What can be done to a song',
    status: 200,
    answer: operationListSchema,
    errors: [],
  },
  takeStep: {
    tag: 'steps',
    summary: 'Take a step, or preview it',
    body: stepRequestSchema,
    status: 200,
    answer: stepResultSchema,
    errors: [404, 409, 422, 429],
  },
  listSteps: {
    tag: 'steps',
    summary: 'The song’s history',
    status: 200,
    answer: stepListSchema,
    errors: [404],
  },
  undo: {
    tag: 'steps',
    summary: 'Undo the last step',
    body: moveSchema,
    bodyMayBeEmpty: true,
    status: 200,
    answer: movedSchema,
    errors: [404, 409],
  },
  redo: {
    tag: 'steps',
    summary: 'Redo the step that was undone',
    body: moveSchema,
    bodyMayBeEmpty: true,
    status: 200,
    answer: movedSchema,
    errors: [404, 409],
  },
  goTo: {
    tag: 'steps',
    summary:
      'Go to any revision of the history at once; the steps that are left stay there, and can be gone to again',
    body: goSchema,
    status: 200,
    answer: movedSchema,
    errors: [404, 409],
  },
  getStepBars: {
    tag: 'steps',
    summary: 'Where a step changed something, in bars of the song as the step left it',
    status: 200,
    answer: stepBarsSchema,
    errors: [404, 422, 429],
  },
  listFindings: {
    tag: 'findings',
    summary: 'What the look-over notices, with the steps that would settle it',
    status: 200,
    answer: findingListSchema,
    errors: [404, 422, 429],
  },
  leaveFinding: {
    tag: 'findings',
    summary: 'Leave a finding alone, or take it up again',
    body: leaveSchema,
    status: 204,
    errors: [404],
  },
  ...handoffRoutes,
  ...receiverRoutes,
  ...recipeRoutes,
  getBlob: {
    tag: 'songs',
    summary:
      'The events of a track, as the body of an MTrk chunk, by the hash that the song names; never changes',
    status: 200,
    answer: 'audio/midi',
    errors: [404],
  },
  getBlobs: {
    tag: 'songs',
    summary: 'The same of many tracks at once: MTrk chunks in the order they were asked for',
    body: blobsSchema,
    status: 200,
    answer: 'application/octet-stream',
    errors: [404],
  },
  getSounds: {
    tag: 'program',
    summary: 'The sound bank that songs are heard with, SF2 or SF3',
    status: 200,
    answer: 'application/octet-stream',
    errors: [404],
  },
  listBanks: {
    tag: 'program',
    summary: 'Sound banks of one’s own, the one that was added last first',
    status: 200,
    answer: bankListSchema,
    errors: [],
  },
  addBank: {
    tag: 'program',
    summary:
      'Keep a sound bank, SF2 or SF3, of any size there is room for: its structure is checked',
    body: 'files',
    status: 201,
    answer: bankViewSchema,
    errors: [422],
  },
  getBank: {
    tag: 'program',
    summary: 'A sound bank of one’s own, by the SHA-256 of its bytes',
    status: 200,
    answer: 'application/octet-stream',
    errors: [404],
  },
  removeBank: {
    tag: 'program',
    summary:
      'Remove a sound bank for good; songs that were heard with it are heard with the sounds that come along',
    status: 204,
    errors: [404],
  },
  listClips: {
    tag: 'shelf',
    summary: 'Clips on the shelf, narrowed, sorted and in pages',
    query: clipQuerySchema,
    status: 200,
    answer: clipListSchema,
    errors: [],
  },
  addClips: {
    tag: 'shelf',
    summary:
      'Put files on the shelf, those of zip archives in their folders: each is kept as it is',
    query: addClipsQuerySchema,
    body: 'files',
    status: 201,
    answer: clipsAddedSchema,
    errors: [422, 429],
  },
  getShelfFile: {
    tag: 'shelf',
    summary:
      'The clips of a folder, or all, as a zip archive: their files in their folders, and shelf.json with their kinds, tags and bars',
    query: addClipsQuerySchema,
    status: 200,
    answer: 'application/zip',
    errors: [],
  },
  cutClip: {
    tag: 'shelf',
    summary: 'Put bars of a song on the shelf, as a file that begins with what was in force there',
    body: cutClipSchema,
    status: 201,
    answer: clipSchema,
    errors: [404, 409, 422, 429],
  },
  changeClip: {
    tag: 'shelf',
    summary: 'Name, folder, tags or kind of a clip; its bytes never change',
    body: clipChangeSchema,
    status: 200,
    answer: clipSchema,
    errors: [404, 409, 422],
  },
  removeClip: {
    tag: 'shelf',
    summary: 'Take a clip from the shelf; songs that took it in keep what they took',
    status: 204,
    errors: [404],
  },
  restoreClip: {
    tag: 'shelf',
    summary: 'Put a clip back that was taken from the shelf',
    status: 200,
    answer: clipSchema,
    errors: [404],
  },
  listFolders: {
    tag: 'shelf',
    summary: 'The folders in which clips lie',
    status: 200,
    answer: folderListSchema,
    errors: [],
  },
  moveFolder: {
    tag: 'shelf',
    summary: 'Have a folder, with all within it, lie elsewhere or be called otherwise',
    body: folderMoveSchema,
    status: 200,
    answer: folderListSchema,
    errors: [422],
  },
  listInstruments: {
    tag: 'instruments',
    summary: 'Instruments of one’s own, then those that come along',
    status: 200,
    answer: instrumentListSchema,
    errors: [],
  },
  addInstruments: {
    tag: 'instruments',
    summary: 'Keep one instrument, or several',
    body: newInstrumentsSchema,
    status: 201,
    answer: instrumentListSchema,
    errors: [],
  },
  readInstruments: {
    tag: 'instruments',
    summary: 'What definitions as JSON or a MIDI name document hold; nothing is kept',
    body: 'files',
    status: 200,
    answer: instrumentsReadSchema,
    errors: [422, 429],
  },
  writeInstruments: {
    tag: 'instruments',
    summary: 'Instruments as JSON, or those of one device as a MIDI name document',
    query: instrumentFileQuerySchema,
    status: 200,
    answer: 'application/octet-stream',
    errors: [404, 422],
  },
  changeInstrument: {
    tag: 'instruments',
    summary: 'Change an instrument; songs that play it keep their copy',
    body: definitionSchema,
    status: 200,
    answer: instrumentViewSchema,
    errors: [404, 422],
  },
  removeInstrument: {
    tag: 'instruments',
    summary: 'Remove an instrument; songs that play it keep their copy, and it can be restored',
    status: 204,
    errors: [404, 422],
  },
  restoreInstrument: {
    tag: 'instruments',
    summary: 'Bring a removed instrument back',
    status: 200,
    answer: instrumentViewSchema,
    errors: [404, 422],
  },
  getHealth: {
    tag: 'program',
    summary: 'Whether the server and its database answer',
    status: 200,
    answer: z.object({ ok: z.literal(true) }),
    errors: [],
  },
} as const satisfies Record<RouteName, Route>;

export type Routes = typeof routes;

type QuerySchema<N extends RouteName> = Routes[N] extends {
  readonly query: infer Q extends z.ZodType;
}
  ? Q
  : never;
type BodySchema<N extends RouteName> = Routes[N] extends {
  readonly body: infer B extends z.ZodType;
}
  ? B
  : never;

/** A query and a body as they are asked with, and as they are understood: defaults filled in. */
export type QueryAsked<N extends RouteName> = [QuerySchema<N>] extends [never]
  ? undefined
  : z.input<QuerySchema<N>>;
export type QueryUnderstood<N extends RouteName> = [QuerySchema<N>] extends [never]
  ? undefined
  : z.output<QuerySchema<N>>;
export type BodyAsked<N extends RouteName> = [BodySchema<N>] extends [never]
  ? undefined
  : Shown<z.input<BodySchema<N>>>;
export type BodyUnderstood<N extends RouteName> = [BodySchema<N>] extends [never]
  ? undefined
  : z.output<BodySchema<N>>;
/** What is answered: a value; nothing; or `'file'`, which is sent as it is. */
export type Answer<N extends RouteName> = Routes[N] extends { readonly answer: infer A }
  ? A extends z.ZodType
    ? Shown<z.output<A>> | OtherJson<N>
    : 'file'
  : void;
/** JSON that may be answered instead. */
type OtherJson<N extends RouteName> = Routes[N] extends {
  readonly orAnswers: readonly (infer O)[];
}
  ? O extends { readonly type: 'application/json'; readonly schema: infer S extends z.ZodType }
    ? Shown<z.output<S>>
    : never
  : never;
