import type { Route } from './route.ts';
import {
  handoffListSchema,
  handoffPreviewSchema,
  handoffRequestSchema,
  handoffSchema,
  linkListSchema,
  linkRequestSchema,
  newLinkSchema,
  outQuerySchema,
  progressSchema,
  satchelQuerySchema,
} from './handoffs.ts';

/** The requests about what leaves. */
export const handoffRoutes = {
  handOff: {
    tag: 'handoffs',
    summary:
      'Make the files for the other side, with slip and proof; or say which there would be. ' +
      'Where newline-delimited JSON is accepted, it is told how far it is; who goes away stops it',
    body: handoffRequestSchema,
    status: 201,
    answer: handoffSchema,
    orAnswers: [
      { status: 200, type: 'application/json', schema: handoffPreviewSchema },
      { status: 201, type: 'application/x-ndjson', schema: progressSchema },
    ],
    errors: [404, 409, 422, 429],
  },
  listHandoffs: {
    tag: 'handoffs',
    summary: 'What was handed off',
    status: 200,
    answer: handoffListSchema,
    errors: [404],
  },
  getOut: {
    tag: 'handoffs',
    summary:
      'Files that are made when they are fetched, and not kept: one as it is, several as a zip ' +
      'archive. The name in the address is for whoever saves it',
    query: outQuerySchema,
    status: 200,
    answer: 'audio/midi',
    orAnswers: [{ status: 200, type: 'application/zip' }],
    errors: [404, 409, 422, 429],
  },
  getHandoff: {
    tag: 'handoffs',
    summary: 'A handoff: its files, and what was left out or changed',
    status: 200,
    answer: handoffSchema,
    errors: [404],
  },
  getHandoffFile: {
    tag: 'handoffs',
    summary: 'A file of a handoff',
    status: 200,
    answer: 'audio/midi',
    errors: [404],
  },
  getHandoffFiles: {
    tag: 'handoffs',
    summary: 'All files of a handoff as a zip archive',
    status: 200,
    answer: 'application/zip',
    errors: [404],
  },
  getSlip: {
    tag: 'handoffs',
    summary: 'The slip as a text, with a line for each file that any tool checks it by',
    status: 200,
    answer: 'text/plain',
    errors: [404],
  },
  getSatchel: {
    tag: 'handoffs',
    summary:
      'A handoff as a satchel: its files, the map alone, the click, the marks as a list, and the slip; ' +
      'for a collaborator also the song as it is kept',
    query: satchelQuerySchema,
    status: 200,
    answer: 'application/zip',
    errors: [404],
  },
  addLink: {
    tag: 'handoffs',
    summary: 'A link to a handoff for somebody without the song; its address is told once',
    body: linkRequestSchema,
    bodyMayBeEmpty: true,
    status: 201,
    answer: newLinkSchema,
    errors: [404],
  },
  listLinks: {
    tag: 'handoffs',
    summary: 'The links of a handoff',
    status: 200,
    answer: linkListSchema,
    errors: [404],
  },
  revokeLink: {
    tag: 'handoffs',
    summary: 'Revoke a link: it leads nowhere from then on',
    status: 204,
    errors: [404],
  },
  openLink: {
    tag: 'handoffs',
    summary: 'What a link leads to, as a page',
    status: 200,
    answer: 'text/html',
    errors: [404],
  },
  getLinkFile: {
    tag: 'handoffs',
    summary: 'A file of what a link leads to, or files.zip, satchel.zip, slip.html',
    status: 200,
    answer: 'audio/midi',
    orAnswers: [
      { status: 200, type: 'application/zip' },
      { status: 200, type: 'text/html' },
    ],
    errors: [404],
  },
  getSlipPage: {
    tag: 'handoffs',
    summary: 'The slip as a page that prints on one sheet',
    status: 200,
    answer: 'text/html',
    errors: [404],
  },
} as const satisfies Readonly<Record<string, Route>>;
