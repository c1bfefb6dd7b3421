import { expose } from 'comlink';
import { readList } from '#core/lists/lists.ts';

export type ListReader = typeof readList;

expose(readList);
