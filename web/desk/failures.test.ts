import { MessageChannel } from 'node:worker_threads';
import { expose, wrap, type Endpoint } from 'comlink';
import nodeEndpoint from 'comlink/dist/umd/node-adapter.js';
import { expect, it } from 'vitest';
import { RequestFailed } from '../api/client.ts';
import './failures.ts';

it('a refusal on the other side of a thread is the same refusal here, anything else an error with its words', async () => {
  const { port1, port2 } = new MessageChannel();
  const problem = {
    code: 'blob-unknown',
    message: 'There are no such events',
    where: {},
    expected: 'a hash',
    found: 'none',
    remedy: 'Look again.',
  };
  const desk = {
    refused: () => Promise.reject(new RequestFailed(404, problem)),
    broken: () => Promise.reject(new Error('broken')),
  };
  const endpoint = nodeEndpoint as unknown as (port: unknown) => Endpoint;
  expose(desk, endpoint(port1));
  const there = wrap<typeof desk>(endpoint(port2));
  await expect(there.refused()).rejects.toMatchObject({ status: 404, problem });
  await expect(there.refused()).rejects.toBeInstanceOf(RequestFailed);
  await expect(there.broken()).rejects.toThrow('broken');
  port1.close();
});
