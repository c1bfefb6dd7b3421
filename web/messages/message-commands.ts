import { useEffect, useMemo } from 'react';
import { isTyping } from '../components/is-typing.ts';
import { commandOf } from '../keys/pressed.ts';
import { useOffer } from '../state/commands.ts';
import { settle, type Message } from './messages.ts';

/** Messages by keys: all of them, and what the newest offers, wherever the focus is. */
export function useMessageCommands(
  message: Message | undefined,
  open: (open: boolean) => void,
): void {
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (isTyping(e.target) || commandOf(e, 'anywhere') !== 'messages') return;
      e.preventDefault();
      open(true);
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [open]);
  const commands = useMemo(
    () => [
      { title: 'What was said, again', key: 'messages' as const, run: () => open(true) },
      ...(message?.way
        ? [
            {
              title: `${message.way.label}: ${message.text}`,
              run: () => {
                settle(message.id);
                message.way?.onClick();
              },
            },
          ]
        : []),
    ],
    [message, open],
  );
  useOffer('messages', commands);
}
