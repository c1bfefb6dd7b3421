import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { addressOf, urlOf } from '#contracts/addresses.ts';
import type { InstrumentsRead, InstrumentView } from '#contracts/instruments.ts';
import type { InstrumentDefinition } from '#core/instruments/definition.ts';
import { call, problemFrom } from './client.ts';
import { showProblem } from './queries.ts';
import { say } from '../messages/messages.ts';

const key = ['instruments'];

export const useInstruments = () =>
  useQuery({
    queryKey: key,
    queryFn: async (): Promise<readonly InstrumentView[]> =>
      (await call('listInstruments')).instruments,
  });

/** A definition as the API takes it: nobody changes it on its way. */
type Body = Parameters<typeof call<'changeInstrument'>>[1]['body'];
const bodyOf = (definition: InstrumentDefinition): Body => definition as Body;

/** Saves an instrument under its id, or as a new one. */
export function useSaveInstrument() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({
      id,
      definition,
    }: {
      id?: string | undefined;
      definition: InstrumentDefinition;
    }) =>
      id
        ? call('changeInstrument', { params: { id }, body: bodyOf(definition) })
        : (await call('addInstruments', { body: bodyOf(definition) })).instruments[0]!,
    onSuccess: async (saved) => {
      await client.invalidateQueries({ queryKey: key });
      say(`Saved “${saved.definition.name}”`);
    },
    onError: showProblem,
  });
}

export function useRemoveInstrument() {
  const client = useQueryClient();
  const again = (): Promise<void> => client.invalidateQueries({ queryKey: key });
  return useMutation({
    mutationFn: ({ id }: InstrumentView) => call('removeInstrument', { params: { id } }),
    onSuccess: async (_, { id, definition }) => {
      await again();
      say(`Removed “${definition.name}”`, {
        description: 'Songs that play it keep their copy.',
        way: {
          label: 'Bring back',
          onClick: () =>
            void call('restoreInstrument', { params: { id } }).then(again, showProblem),
        },
      });
    },
    onError: showProblem,
  });
}

/** What a file of instruments holds; nothing is kept. */
export const useReadInstruments = () =>
  useMutation({
    mutationFn: async (file: File): Promise<InstrumentsRead> => {
      const form = new FormData();
      form.append('file', file);
      const { method } = addressOf('readInstruments');
      const response = await fetch(urlOf('readInstruments', {}), { method, body: form });
      const text = await response.text();
      if (!response.ok) throw problemFrom(response.status, text);
      return JSON.parse(text) as InstrumentsRead;
    },
    onError: showProblem,
  });

/** Instruments of one request: each may have hundreds of names. */
const atOnce = 200;

/** Keeps what was read: over those that are there, or as new ones. */
export function useTakeInstruments() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (read: InstrumentsRead['instruments']) => {
      const fresh = read.filter((r) => r.over === null).map((r) => r.definition);
      for (let at = 0; at < fresh.length; at += atOnce)
        await call('addInstruments', {
          body: { instruments: fresh.slice(at, at + atOnce) } as never,
        });
      for (const { over, definition } of read)
        if (over !== null)
          await call('changeInstrument', { params: { id: over }, body: bodyOf(definition) });
    },
    onSettled: () => client.invalidateQueries({ queryKey: key }),
    onSuccess: (_, read) => {
      say(`Took ${read.length === 1 ? read[0]!.definition.name : `${read.length} instruments`}`);
    },
    onError: showProblem,
  });
}
