import type { ClipboardEvent } from 'react';
import type { MeterMap } from '#core/timing/meter-map.ts';
import type { StepAsked } from '../../api/queries.ts';
import { copied, unreadable, writing, type ShownLine } from '../../harmony/line.ts';
import type { Bars } from '../../state/scope.ts';
import { say, sayWrong } from '../../messages/messages.ts';

interface Of {
  readonly line: ShownLine;
  readonly meters: MeterMap;
  readonly chosen: Bars;
  /** Keys go into a field: it has a clipboard of its own. */
  readonly typing: boolean;
  add(step: (line: ShownLine) => StepAsked): void;
}

const barsText = ({ from, to }: Bars): string =>
  from === to ? `bar ${from}` : `bars ${from} to ${to}`;

/** Chords go to the clipboard as they would be typed, and come from anything that takes and gives text. */
export function chordClipboard({ line, meters, chosen, typing, add }: Of) {
  const onCopy = (e: ClipboardEvent): void => {
    if (typing) return;
    e.preventDefault();
    e.clipboardData.setData('text/plain', copied(line, meters, chosen.from, chosen.to));
    say(`Copied the chords of ${barsText(chosen)}`, {
      description: 'As text: V with Ctrl writes them from the bar in focus on.',
    });
  };
  const onPaste = (e: ClipboardEvent): void => {
    if (typing) return;
    e.preventDefault();
    const typed = e.clipboardData.getData('text/plain');
    const wrong = unreadable(typed);
    if (typed.trim() !== '' && wrong === undefined) {
      add((now) => writing(now, chosen.from, typed));
      return;
    }
    const says =
      wrong === undefined ? 'There are no chords to paste' : `“${wrong.slice(0, 40)}” is no chord`;
    sayWrong(says, {
      about: 'chord',
      description: 'Copy chords as Dm7 G7 | Cmaj9; nothing was written.',
    });
  };
  return { onCopy, onPaste };
}
