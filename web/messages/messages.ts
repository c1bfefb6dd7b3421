import { create } from 'zustand';

/** Something one can do about what is said. */
export interface Way {
  readonly label: string;
  readonly onClick: () => void;
}

export interface Message {
  readonly id: number;
  readonly text: string;
  readonly description?: string | undefined;
  readonly kind: 'done' | 'wrong' | 'busy';
  readonly way?: Way | undefined;
  readonly at: Date;
}

export interface MessageOptions {
  readonly description?: string | undefined;
  readonly way?: Way | undefined;
  /** It takes the place of the last one about the same thing, whose way out is no longer offered. */
  readonly about?: string | undefined;
}

interface MessageState {
  /** All that were said since the page was opened, the newest first. */
  readonly said: readonly Message[];
  /** Those that stand in the head of the page, the newest first. */
  readonly standing: readonly number[];
}

/** As many can be read again. */
const mostKept = 200;
/** A message stands long enough to be read and to press what it offers; one of a fault until it is put away. */
export const standsMs = 12_000;

export const useMessages = create<MessageState>(() => ({ said: [], standing: [] }));

let last = 0;
const latest = new Map<string, number>();

function add(kind: Message['kind'], text: string, options: MessageOptions): number {
  const { description, way, about } = options;
  const id = ++last;
  if (about !== undefined) {
    const before = latest.get(about);
    if (before !== undefined) settle(before);
    latest.set(about, id);
  }
  useMessages.setState(({ said, standing }) => ({
    said: [{ id, text, description, kind, way, at: new Date() }, ...said].slice(0, mostKept),
    standing: [id, ...standing],
  }));
  return id;
}

/** Says what was done. */
export function say(text: string, options: MessageOptions = {}): void {
  add('done', text, options);
}

/** Says what went wrong, and what to do. */
export function sayWrong(text: string, options: MessageOptions = {}): void {
  add('wrong', text, options);
}

/** Something that takes a while: how far it is, until it ends; then nothing is left of it. */
export function sayBusy(text: string): {
  readonly tell: (text: string, way?: Way) => void;
  readonly end: () => void;
} {
  const id = add('busy', text, {});
  const change = (with_: (said: readonly Message[]) => readonly Message[]): void =>
    useMessages.setState(({ said }) => ({ said: with_(said) }));
  return {
    tell: (text, way) =>
      change((said) => said.map((m) => (m.id === id ? { ...m, text, way: way ?? m.way } : m))),
    end: () => {
      putAway(id);
      change((said) => said.filter((m) => m.id !== id));
    },
  };
}

/** It stands no longer in the head; it can be read again. */
export function putAway(id: number): void {
  useMessages.setState(({ standing }) => ({ standing: standing.filter((n) => n !== id) }));
}

/** What it offered was done, or can be no longer. */
export function settle(id: number): void {
  putAway(id);
  useMessages.setState(({ said }) => ({
    said: said.map((m) => (m.id === id ? { ...m, way: undefined } : m)),
  }));
}
