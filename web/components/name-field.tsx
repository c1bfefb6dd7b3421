import { useState } from 'react';

/**
 * A name being typed: Enter or leaving keeps it, Escape does not. `done` gets undefined where it is to stay
 * as it was.
 */
export function NameField({
  label,
  initial,
  done,
  className = '',
}: {
  label: string;
  initial: string;
  done: (name: string | undefined) => void;
  className?: string;
}) {
  const [text, setText] = useState(initial);
  const keep = (): void => done(text.trim() === '' ? undefined : text.trim());
  return (
    <input
      autoFocus
      aria-label={label}
      value={text}
      maxLength={200}
      className={`min-w-0 rounded border border-amber bg-sheet px-1 ${className}`}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') keep();
        if (e.key === 'Escape') done(undefined);
      }}
    />
  );
}
