import { receiverFileSchema, receiverSchema } from '#core/handoff/receiver/receiver.ts';
import { receiverListSchema, receiversAskedSchema, receiverViewSchema } from './receivers.ts';
import type { Route } from './route.ts';

/** The requests about who handoffs are for. */
export const receiverRoutes = {
  listReceivers: {
    tag: 'receivers',
    summary: 'Receivers of one’s own, then those that are shipped',
    status: 200,
    answer: receiverListSchema,
    errors: [],
  },
  addReceiver: {
    tag: 'receivers',
    summary: 'Save a receiver',
    body: receiverSchema,
    status: 201,
    answer: receiverViewSchema,
    errors: [],
  },
  addReceivers: {
    tag: 'receivers',
    summary: 'Take all receivers of a file, or none',
    body: receiverFileSchema,
    status: 201,
    answer: receiverListSchema,
    errors: [],
  },
  getReceivers: {
    tag: 'receivers',
    summary: 'Receivers as a file',
    query: receiversAskedSchema,
    status: 200,
    answer: receiverFileSchema,
    errors: [404],
  },
  changeReceiver: {
    tag: 'receivers',
    summary: 'Change a receiver',
    body: receiverSchema,
    status: 200,
    answer: receiverViewSchema,
    errors: [404, 422],
  },
  removeReceiver: {
    tag: 'receivers',
    summary: 'Remove a receiver; it can be restored',
    status: 204,
    errors: [404, 422],
  },
  restoreReceiver: {
    tag: 'receivers',
    summary: 'Bring a removed receiver back',
    status: 200,
    answer: receiverViewSchema,
    errors: [404, 422],
  },
} as const satisfies Readonly<Record<string, Route>>;
