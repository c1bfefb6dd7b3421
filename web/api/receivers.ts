import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Receiver, ReceiverFile } from '#core/handoff/receiver/receiver.ts';
import type { ReceiverView } from '#contracts/receivers.ts';
import { count } from '../components/text.ts';
import { call } from './client.ts';
import { jsonOf } from './json-of.ts';
import { showProblem } from './queries.ts';
import { say } from '../messages/messages.ts';

const key = ['receivers'];

export const useReceivers = () =>
  useQuery({ queryKey: key, queryFn: async () => (await call('listReceivers')).receivers });

/** Saves a receiver under its id, or as a new one. */
export function useSaveReceiver() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, receiver }: { id?: string | undefined; receiver: Receiver }) =>
      id
        ? call('changeReceiver', { params: { id }, body: receiver })
        : call('addReceiver', { body: receiver }),
    onSuccess: async (saved) => {
      await client.invalidateQueries({ queryKey: key });
      say(`Saved “${saved.name}”`);
    },
    onError: showProblem,
  });
}

/** Takes the receivers of a file. */
export function useTakeReceivers() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (file: File) => {
      return call('addReceivers', { body: (await jsonOf(file)) as ReceiverFile });
    },
    onSuccess: async ({ receivers }) => {
      await client.invalidateQueries({ queryKey: key });
      say(`Took ${count(receivers.length, 'receiver')}`, {
        description: receivers.map((r) => r.name).join(', '),
      });
    },
  });
}

export function useRemoveReceiver() {
  const client = useQueryClient();
  const again = (): Promise<void> => client.invalidateQueries({ queryKey: key });
  return useMutation({
    mutationFn: ({ id }: ReceiverView) => call('removeReceiver', { params: { id } }),
    onSuccess: async (_, receiver) => {
      await again();
      say(`Removed “${receiver.name}”`, {
        way: {
          label: 'Bring back',
          onClick: () =>
            void call('restoreReceiver', { params: { id: receiver.id } }).then(again, showProblem),
        },
      });
    },
    onError: showProblem,
  });
}
