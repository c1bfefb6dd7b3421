import { MessageSquareText, X } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useRef, useState, type ComponentPropsWithRef, type ReactNode } from 'react';
import { Button } from '../components/button.tsx';
import { keyNow } from '../keys/shown.ts';
import { useMessageCommands } from './message-commands.ts';
import { MessageList } from './message-list.tsx';
import { putAway, settle, standsMs, useMessages, type Message } from './messages.ts';

/**
 * Where messages stand: in the head of every page, so that they cover nothing and move nothing. The newest is
 * read here; how many more stand is said beside it, and all that were ever said are a press away.
 */
export function MessageLine({
  idle,
}: {
  /** Stands here as long as nothing is said. */ idle?: ReactNode;
}) {
  const { said, standing } = useMessages();
  const message = said.find((m) => m.id === standing[0]);
  const [open, setOpen] = useState(false);
  const [held, hold] = useState(false);
  useLeaving(message, held || open);
  useMessageCommands(message, setOpen);
  const all = useRef<HTMLButtonElement>(null);
  /** What was pressed may be gone by then: the focus stays where messages are. */
  const press = (does: () => void) => (): void => {
    does();
    requestAnimationFrame(() => {
      if (document.activeElement === document.body) all.current?.focus();
    });
  };
  return (
    <section
      aria-label="Messages"
      className={`order-last flex h-[30px] min-w-0 basis-full items-center justify-end gap-1.5 md:order-none md:flex-1 md:basis-0 ${message ? overDialogs : ''}`}
      onPointerEnter={() => hold(true)}
      onPointerLeave={() => hold(false)}
      onFocus={() => hold(true)}
      onBlur={() => hold(false)}
    >
      <div aria-live="polite" className="min-w-0 flex-1">
        {message ? <Line key={message.id} message={message} read={() => setOpen(true)} /> : idle}
      </div>
      {message?.way && (
        <Button className="!py-0.5" onClick={press(() => taken(message))}>
          {message.way.label}
        </Button>
      )}
      {message && message.kind !== 'busy' && (
        <Button
          kind="quiet"
          className="!px-1"
          aria-label="Put the message away"
          onClick={press(() => putAway(message.id))}
        >
          <X size={14} aria-hidden />
        </Button>
      )}
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger asChild>
          <AllButton ref={all} said={said.length} standing={standing.length} />
        </Popover.Trigger>
        <MessageList said={said} taken={taken} />
      </Popover.Root>
    </section>
  );
}

interface AllButtonProps extends ComponentPropsWithRef<'button'> {
  /** How many messages there were, and how many stand. */
  readonly said: number;
  readonly standing: number;
}

/** Opens all that was said; what opens gives it the rest. */
const AllButton = ({ said, standing, ...trigger }: AllButtonProps) => (
  <button
    type="button"
    className="inline-flex items-center gap-1 rounded-[5px] border border-transparent px-2 py-1 hover:border-line disabled:opacity-55"
    aria-label="All messages"
    title={said === 0 ? 'Nothing was said yet' : `What was said, again (${keyNow('messages')})`}
    disabled={said === 0}
    {...trigger}
  >
    <MessageSquareText size={15} aria-hidden />
    <span className="num min-w-[2ch] text-left text-[12px] text-faint">
      {standing > 1 && `+${standing - 1}`}
    </span>
  </button>
);

/** What is said while a dialog is open is read above its veil. */
const overDialogs = 'relative z-[45] rounded bg-paper';

/** Does what a message offers, once. */
function taken({ id, way }: Message): void {
  settle(id);
  way?.onClick();
}

/** It leaves by itself; not while it is pointed at, nor one of a fault or of what is under way. */
function useLeaving(message: Message | undefined, held: boolean): void {
  useEffect(() => {
    if (!message || message.kind !== 'done' || held) return;
    const timer = setTimeout(() => putAway(message.id), standsMs);
    return () => clearTimeout(timer);
  }, [message, held]);
}

const edges = { done: 'border-moss', wrong: 'border-rust', busy: 'border-amber' };

const Line = ({
  message: { text, description, kind },
  read,
}: {
  message: Message;
  read: () => void;
}) => (
  <p
    {...(kind === 'wrong' ? { role: 'alert' } : {})}
    className={`cursor-default truncate border-l-3 pl-2 text-[13px] ${edges[kind]}`}
    title={[text, description].filter(Boolean).join('. ')}
    onClick={read}
  >
    <span className="font-medium">{text}</span>
    {description && <span className="text-faint"> · {description}</span>}
  </p>
);
