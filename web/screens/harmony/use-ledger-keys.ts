import { useRef, useState, type KeyboardEvent } from 'react';
import type { KeyCommandId } from '#contracts/key-commands.ts';
import type { SongView } from '#contracts/songs.ts';
import type { MeterMap } from '#core/timing/meter-map.ts';
import type { StepAsked } from '../../api/queries.ts';
import {
  copied,
  emptying,
  lineOf,
  moving,
  sending,
  typedIn,
  unreadable,
  writing,
  type ShownLine,
} from '../../harmony/line.ts';
import { commandOf } from '../../keys/pressed.ts';
import { useScope, type Bars } from '../../state/scope.ts';
import { useStepQueue } from '../../step/use-step-queue.ts';
import { chordClipboard } from './chord-clipboard.ts';
import { sayWrong } from '../../messages/messages.ts';

interface Ledger {
  readonly song: SongView;
  readonly line: ShownLine;
  readonly meters: MeterMap;
  readonly rows: number;
  scrollTo(row: number): void;
  focusList(): void;
}

/** Which bars are chosen, what is typed into one, and what keys do to them. */
export function useLedgerKeys({ song, line, meters, rows, scrollTo, focusList }: Ledger) {
  const [at, setAt] = useState({ focus: 1, anchor: 1 });
  const [editing, setEditing] = useState<string>();
  // A field that goes loses the focus as well: what was typed is kept once.
  const open = useRef(false);
  const { add: wait, busy } = useStepQueue(song);
  const add = (step: (now: ShownLine) => StepAsked): void => void wait((now) => step(lineOf(now)));
  const span = useScope((s) => s.span);
  const focus = Math.min(at.focus, rows);
  const anchor = Math.min(at.anchor, rows);
  const chosen: Bars = { from: Math.min(focus, anchor), to: Math.max(focus, anchor) };
  const go = (bar: number, extend = false): void => {
    const to = Math.max(1, Math.min(rows, bar));
    setAt(({ anchor: from }) => ({ focus: to, anchor: extend ? from : to }));
    scrollTo(to - 1);
  };
  const begin = (bar: number, typed = typedIn(line, meters, bar)): void => {
    go(bar);
    open.current = true;
    setEditing(typed);
  };
  const write = (typed: string): boolean => {
    const wrong = unreadable(typed);
    if (wrong !== undefined) {
      sayWrong(`“${wrong}” is no chord`, {
        about: 'chord',
        description: 'Begin with a root from A to G, as Dm7, G7/B or N.C.; nothing was written.',
      });
      return false;
    }
    if (typed.trim() !== typedIn(line, meters, focus)) add((now) => writing(now, focus, typed));
    return true;
  };
  const done = (how: 'keep' | 'leave' | 'away'): void => {
    if (editing === undefined || !open.current) return;
    // What cannot be read stays to be mended; what was left by going elsewhere is let go.
    if (how === 'keep' && !write(editing)) return;
    if (how === 'away' && unreadable(editing) === undefined) write(editing);
    open.current = false;
    setEditing(undefined);
    if (how === 'keep') go(focus + Math.max(1, editing.split('|').length));
    if (how !== 'away') focusList();
  };
  const move = (by: number): void => {
    const landing = chosen.from + by;
    if (landing < 1 || chosen.to + by > rows) return;
    if (typedAll(chosen) === '') return;
    add((now) => moving(now, meters, chosen, landing));
    setAt({ focus: focus + by, anchor: anchor + by });
    scrollTo(focus + by - 1);
  };
  const typedAll = ({ from, to }: Bars): string => {
    for (let bar = from; bar <= to; bar++) if (typedIn(line, meters, bar) !== '') return 'some';
    return '';
  };
  const takeTold = (bars: Bars): void =>
    add((now) => ({
      operation: 'chords.set',
      settings: { from: 'what sounds', sent: now.sent },
      scope: { tracks: 'all', bars },
    }));
  const send = (sent: boolean): void => add((now) => sending(now, sent));
  const empty = (): void => add(() => emptying(chosen.from, chosen.to));
  const commands: Partial<Record<KeyCommandId, () => void>> = {
    'harmony-up': () => move(-1),
    'harmony-down': () => move(1),
    'harmony-empty': empty,
    'harmony-scope': () => span(chosen),
    'harmony-take': () => takeTold(chosen),
  };
  const moves: Readonly<Record<string, (e: KeyboardEvent) => void>> = {
    ArrowUp: (e) => go(focus - 1, e.shiftKey),
    ArrowDown: (e) => go(focus + 1, e.shiftKey),
    PageUp: (e) => go(focus - 16, e.shiftKey),
    PageDown: (e) => go(focus + 16, e.shiftKey),
    Home: (e) => go(1, e.shiftKey),
    End: (e) => go(rows, e.shiftKey),
    Enter: () => begin(focus),
    F2: () => begin(focus),
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    // Copying is the browser's: what is chosen here goes along as text.
    if (commandOf(e, 'song') === 'copy') return e.stopPropagation();
    const command = commandOf(e, 'harmony');
    const plain = !e.ctrlKey && !e.metaKey && !e.altKey;
    const act = (command && commands[command]) ?? (plain ? moves[e.key] : undefined);
    // A root begins a chord.
    const types = plain && /^[A-GN]$/.test(e.key);
    if (!act && !types) return;
    e.preventDefault();
    e.stopPropagation();
    if (act) act(e);
    else begin(focus, e.key);
  };
  const clipboard = chordClipboard({ line, meters, chosen, typing: editing !== undefined, add });
  const dropped = (from: number, onto: number, copies: boolean): void => {
    if (from === onto) return;
    add((now) =>
      copies
        ? writing(now, onto, copied(now, meters, from, from))
        : moving(now, meters, { from, to: from }, onto),
    );
    go(onto);
  };
  return {
    busy,
    takeTold,
    send,
    focus,
    chosen,
    editing,
    type: setEditing,
    done,
    go,
    begin,
    dropped,
    onKeyDown,
    ...clipboard,
  };
}
