import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { BankView } from '#contracts/banks.ts';
import { fileSize } from '../components/text.ts';
import { forgetBank } from '../state/hearing.ts';
import { call } from './client.ts';
import { showProblem } from './queries.ts';
import { sendFiles } from './upload.ts';
import { say } from '../messages/messages.ts';

const key = ['banks'];

export const useBanks = () => useQuery({ queryKey: key, queryFn: () => call('listBanks') });

/** Keeps a sound bank: it is checked before it is used. */
export function useAddBank(progress: (part: number) => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (file: File): Promise<BankView> => sendFiles('addBank', [file], { progress }),
    onSuccess: async (bank) => {
      await client.invalidateQueries({ queryKey: key });
      say(`Took ${bank.name}`, { description: lacks(bank) });
    },
    onError: showProblem,
  });
}

/** What a bank has no sound for, in words; undefined where it has all that General MIDI has. */
export function lacks({ missing, drums }: BankView): string | undefined {
  const parts = [
    ...(missing.length === 128
      ? ['no General MIDI program']
      : missing.length > 0
        ? [
            `nothing for ${missing.length === 1 ? 'program' : 'programs'} ${missing
              .slice(0, 6)
              .map((n) => n + 1)
              .join(', ')}${missing.length > 6 ? ` and ${missing.length - 6} more` : ''}`,
          ]
        : []),
    ...(drums ? [] : ['no drums']),
  ];
  return parts.length > 0
    ? `It has ${parts.join(', and ')}: something near it is heard there, if anything.`
    : undefined;
}

export function useRemoveBank() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ sha256 }: BankView) => call('removeBank', { params: { sha256 } }),
    onSuccess: async (_, { sha256, name, bytes }) => {
      forgetBank(sha256);
      await client.invalidateQueries({ queryKey: key });
      say(`Removed ${name}`, { description: `${fileSize(bytes)} are free again.` });
    },
    onError: showProblem,
  });
}
