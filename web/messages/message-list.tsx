import { format } from 'date-fns';
import { Popover } from 'radix-ui';
import { Button } from '../components/button.tsx';
import type { Message } from './messages.ts';

const edges = { done: 'border-moss', wrong: 'border-rust', busy: 'border-amber' };

/** All that was said since the page was opened, the newest first, with what can still be done about it. */
export const MessageList = ({
  said,
  taken,
}: {
  said: readonly Message[];
  taken: (message: Message) => void;
}) => (
  <Popover.Portal>
    <Popover.Content
      align="end"
      sideOffset={4}
      aria-label="What was said"
      className="z-40 max-h-[60vh] w-[min(460px,92vw)] overflow-auto rounded border border-line bg-sheet p-2 shadow-lg"
      onKeyDown={(e) => e.stopPropagation()}
    >
      <ul className="space-y-1.5">
        {said.map((message) => (
          <li key={message.id} className={`border-l-3 pl-2 ${edges[message.kind]}`}>
            <p>
              <span className="num mr-2 text-[12px] text-faint">
                {format(message.at, 'HH:mm:ss')}
              </span>
              {message.text}
            </p>
            {message.description && (
              <p className="text-[12.5px] text-faint">{message.description}</p>
            )}
            {message.way && (
              <Button className="my-0.5 !py-0.5 text-[12.5px]" onClick={() => taken(message)}>
                {message.way.label}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Popover.Content>
  </Popover.Portal>
);
