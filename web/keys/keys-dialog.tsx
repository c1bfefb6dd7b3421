import { Dialog } from 'radix-ui';
import { useState } from 'react';
import {
  fixedKeys,
  keyCommandIds,
  keyCommands,
  keyPlaces,
  keysOf,
  takenBy,
  type KeyCommandId,
  type KeyPlace,
} from '#contracts/key-commands.ts';
import { Button } from '../components/button.tsx';
import { usePreferences } from '../state/preferences.ts';
import { openKeys } from './open-keys.ts';
import { keyText } from './pressed.ts';
import { shownKey } from './shown.ts';

/** Every key on one sheet, each changed by pressing another. */
export function KeysDialog() {
  return (
    <Dialog.Root open onOpenChange={openKeys}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          // Behind it nothing is played, undone or gone to.
          onKeyDown={(e) => e.stopPropagation()}
          className="fixed inset-x-[4vw] top-[5vh] z-50 mx-auto flex max-h-[90vh] max-w-[1120px] flex-col rounded-lg border border-line bg-sheet px-5 py-4 shadow-xl"
        >
          <Keys />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Keys() {
  const { keys, setKeys } = usePreferences();
  const [asked, ask] = useState<KeyCommandId>();
  const [said, say] = useState('');
  const changed = Object.keys(keys).length;
  const take = (id: KeyCommandId, key: string): void => {
    const by = takenBy(id, key, keys);
    const { title, keys: shipped } = keyCommands[id];
    if (by) return say(`${shownKey(key)} cannot be “${title}”: ${by} has it. Press another key.`);
    const { [id]: _, ...others } = keys;
    setKeys((shipped as readonly string[])[0] === key ? others : { ...others, [id]: key });
    say(`“${title}” is ${shownKey(key)} now.`);
    ask(undefined);
  };
  const begin = (id: KeyCommandId): void => {
    ask(id);
    say(`Press the key for “${keyCommands[id].title}”; Esc leaves it.`);
  };
  const leave = (): void => {
    ask(undefined);
    say('');
  };
  return (
    <>
      <div className="flex items-center gap-3">
        <Dialog.Title className="text-[16px] font-semibold">Keys</Dialog.Title>
        <p role="status" className="min-w-0 flex-1 truncate text-faint">
          {said || 'Press a key’s button, then the key that is to take its place.'}
        </p>
        <Button
          aria-disabled={changed === 0}
          onClick={() => {
            setKeys({});
            say('All keys are as they came.');
          }}
        >
          All as they came
        </Button>
        <Dialog.Close asChild>
          <Button>Close</Button>
        </Dialog.Close>
      </div>
      <div className="mt-3 min-h-0 overflow-auto" tabIndex={-1}>
        <div className="columns-1 gap-7 md:columns-2 lg:columns-3">
          {(Object.keys(keyPlaces) as KeyPlace[]).map((place) => (
            <KeysOfPlace
              key={place}
              place={place}
              asked={asked}
              ask={begin}
              leave={leave}
              take={take}
            />
          ))}
        </div>
      </div>
    </>
  );
}

/** The keys of one place: those that can be changed, and those that cannot. */
const KeysOfPlace = ({
  place,
  asked,
  ask,
  leave,
  take,
}: {
  place: KeyPlace;
  asked: KeyCommandId | undefined;
  ask: (id: KeyCommandId) => void;
  leave: () => void;
  take: (id: KeyCommandId, key: string) => void;
}) => (
  <section aria-label={keyPlaces[place]} className="mb-4 break-inside-avoid-column">
    <h3 className="seam mb-1 pb-0.5 text-[12.5px] font-semibold">{keyPlaces[place]}</h3>
    <ul>
      {keyCommandIds
        .filter((id) => keyCommands[id].place === place)
        .map((id) => (
          <Changeable
            key={id}
            id={id}
            asked={asked === id}
            ask={() => ask(id)}
            leave={leave}
            take={(key) => take(id, key)}
          />
        ))}
      {fixedKeys
        .filter((f) => f.place === place)
        .map(({ title, says }) => (
          <li
            key={`${title} ${says}`}
            className="flex items-baseline gap-2 py-0.5 text-[12.5px] text-faint"
          >
            <span className="min-w-0 flex-1">{title}</span>
            <kbd className="num shrink-0">{says}</kbd>
          </li>
        ))}
    </ul>
  </section>
);

/** One command: pressed, the next key is its key. */
function Changeable({
  id,
  asked,
  ask,
  leave,
  take,
}: {
  id: KeyCommandId;
  asked: boolean;
  ask: () => void;
  leave: () => void;
  take: (key: string) => void;
}) {
  const keys = usePreferences((p) => p.keys);
  const { title } = keyCommands[id];
  const own = keys[id] !== undefined;
  const now = keysOf(id, keys).map(shownKey).join(' or ');
  return (
    <li className="flex items-baseline gap-2 py-0.5 text-[12.5px]">
      <span className="min-w-0 flex-1">{title}</span>
      <button
        type="button"
        aria-label={`${title}: ${now}${own ? ', changed' : ''}`}
        aria-pressed={asked}
        className={`num min-w-[52px] shrink-0 rounded border px-1.5 ${asked ? 'border-amber bg-amber-soft' : own ? 'border-ochre-fill text-ochre' : 'border-line hover:border-stitch'}`}
        onClick={ask}
        onBlur={() => asked && leave()}
        onKeyDown={(e) => {
          if (!asked || ['Control', 'Alt', 'Shift', 'Meta'].includes(e.key)) return;
          e.preventDefault();
          e.stopPropagation();
          if (e.key === 'Escape') leave();
          else take(keyText(e));
        }}
      >
        {asked ? 'press …' : now}
      </button>
    </li>
  );
}
