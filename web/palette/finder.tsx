import { Command } from 'cmdk';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import type { Choice } from './found.ts';
import { useChoices } from './use-choices.ts';

/** The field and what answers to it. Enter takes what is pointed at, and is never too early. */
export function Finder({ close }: { close: () => void }) {
  const [typed, type] = useState('');
  const [pointed, point] = useState({ typed: '', key: '' });
  const { groups, waiting } = useChoices(typed, close);
  const all = groups.flatMap(({ list }) => list);
  // What was pointed at in the answers to other text is none.
  const at = all.find(({ key }) => pointed.typed === typed && pointed.key === key) ?? all[0];
  const enter = useEnter(typed, waiting ? undefined : at);
  return (
    <Command
      label="Commands"
      loop
      shouldFilter={false}
      value={at?.key ?? ''}
      onValueChange={(key) => point({ typed, key })}
      onKeyDown={enter}
    >
      <Command.Input
        value={typed}
        onValueChange={type}
        placeholder="What next?"
        aria-label="What next?"
        className="w-full bg-transparent px-3 py-2 text-[15px] outline-none placeholder:text-faint"
      />
      <Command.List className="mt-1 max-h-[50vh] overflow-auto [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-faint">
        <Command.Empty className="px-3 py-4 text-faint">Nothing of that name.</Command.Empty>
        {groups.map(({ heading, list }) => (
          <Command.Group key={heading} heading={heading}>
            {list.map((choice) => (
              <Row key={choice.key} choice={choice} />
            ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command>
  );
}

const Row = ({ choice: { key, title, aside, take } }: { choice: Choice }) => (
  <Command.Item
    value={key}
    className="flex justify-between gap-4 rounded-[5px] px-3 py-1.5 data-[selected=true]:bg-amber-soft"
    onSelect={take}
  >
    {title}
    {aside && <span className="num text-faint">{aside}</span>}
  </Command.Item>
);

/** How long an Enter waits at most for something to take, in ms. */
const waits = 5000;

/**
 * What Enter does: it takes what is pointed at by what was typed, whether that is drawn yet or not. Where
 * nothing surely answers yet, it waits for what comes: a song that is looked for, the undo of a step under
 * way.
 */
function useEnter(typed: string, at: Choice | undefined): (e: KeyboardEvent) => void {
  const early = useRef<{ typed: string; until: number }>(undefined);
  useEffect(() => {
    const was = early.current;
    if (!was || !at) return;
    early.current = undefined;
    if (was.typed === typed && Date.now() < was.until) at.take();
  });
  return (e) => {
    if (e.key !== 'Enter' || e.nativeEvent.isComposing) return;
    e.preventDefault();
    if (at) at.take();
    else early.current = { typed, until: Date.now() + waits };
  };
}
