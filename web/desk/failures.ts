import { transferHandlers, type TransferHandler } from 'comlink';
import type { ApiError } from '#contracts/errors.ts';
import { RequestFailed } from '../api/client.ts';

interface Thrown {
  readonly value: unknown;
}
interface Sent {
  readonly status: number;
  readonly problem: ApiError;
}

const usual = transferHandlers.get('throw') as TransferHandler<Thrown, unknown>;
const isSent = (value: unknown): value is Sent =>
  typeof value === 'object' && value !== null && 'problem' in value;

/**
 * What the server refused the desk arrives at the page as what it is: by itself an error that goes from
 * thread to thread keeps its words alone.
 */
transferHandlers.set('throw', {
  canHandle: usual.canHandle,
  serialize: (thrown: Thrown) => {
    const { value } = thrown;
    return value instanceof RequestFailed
      ? [{ status: value.status, problem: value.problem } satisfies Sent, []]
      : usual.serialize(thrown);
  },
  deserialize: (sent: unknown) => {
    if (isSent(sent)) throw new RequestFailed(sent.status, sent.problem);
    return usual.deserialize(sent);
  },
} as TransferHandler<Thrown, unknown>);
