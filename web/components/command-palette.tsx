import { Command as Palette, useCommandState } from 'cmdk';
import { useDeferredValue, useEffect, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { openKeys } from '../keys/open-keys.ts';
import { commandOf } from '../keys/pressed.ts';
import { keyNow } from '../keys/shown.ts';
import { useSongs } from '../api/queries.ts';
import { useCommands, type Command } from '../state/commands.ts';
import { usePreferences } from '../state/preferences.ts';

const item =
  'flex justify-between gap-4 rounded-[5px] px-3 py-1.5 data-[selected=true]:bg-amber-soft';

/** Everything that can be done or opened from here, by name. Ctrl+K, or ⌘K. */
export function CommandPalette() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (commandOf(e, 'anywhere') !== 'find') return;
      e.preventDefault();
      setOpen((was) => !was);
    };
    const onAsk = (): void => setOpen(true);
    addEventListener('keydown', onKey);
    addEventListener('open-commands', onAsk);
    return () => {
      removeEventListener('keydown', onKey);
      removeEventListener('open-commands', onAsk);
    };
  }, []);
  return (
    <Palette.Dialog
      open={open}
      onOpenChange={setOpen}
      label="Commands"
      loop
      overlayClassName="fixed inset-0 z-40 bg-ink/25"
      contentClassName="fixed top-[14vh] left-1/2 z-50 w-[min(560px,92vw)] -translate-x-1/2 rounded-lg border border-line bg-sheet p-2 shadow-xl"
    >
      <Palette.Input
        placeholder="What next?"
        aria-label="What next?"
        className="w-full bg-transparent px-3 py-2 text-[15px] outline-none placeholder:text-faint"
      />
      <Palette.List className="mt-1 max-h-[50vh] overflow-auto [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-faint">
        {/* There with the field: a list that came later would let Enter go by that is pressed before. */}
        <Palette.Empty className="px-3 py-4 text-faint">Nothing of that name.</Palette.Empty>
        <Choices close={() => setOpen(false)} />
      </Palette.List>
    </Palette.Dialog>
  );
}

function Choices({ close }: { close: () => void }) {
  const commands = useCommands((s) => s.commands);
  const steps = useCommands((s) => s.groups.get('steps')) ?? [];
  const search = useDeferredValue(useCommandState((state) => state.search));
  const songs = useSongs(search, 30);
  const navigate = useNavigate();
  const anywhere = useAnywhere();
  const { lately, tookCommand } = usePreferences();
  const shownSteps = search === '' ? [] : steps;
  // What was used lately and can be done here comes first, and once.
  const all = [...commands, ...steps, ...anywhere];
  const recent =
    search === '' ? lately.flatMap((title) => all.find((c) => c.title === title) ?? []) : [];
  const others = (list: readonly Command[]): readonly Command[] =>
    list.filter((c) => !recent.includes(c));
  const run = (command: Command) => (): void => {
    close();
    tookCommand(command.title);
    command.run();
  };
  return (
    <>
      <Offered heading="Lately" list={recent.slice(0, mostLately)} run={run} />
      <Offered heading="Here" list={others(commands)} run={run} />
      <Offered heading="Steps" list={others(shownSteps)} run={run} />
      <Offered heading="Anywhere" list={others(anywhere)} run={run} />
      <Palette.Group heading="Songs">
        {songs.data?.songs.map((song) => (
          <Palette.Item
            key={song.id}
            value={`${song.title} ${song.fileName} ${song.tags.join(' ')} ${song.id}`}
            className={item}
            onSelect={() => {
              close();
              void navigate(`/songs/${song.id}`);
            }}
          >
            {song.title}
            <span className="num text-faint">{song.tracks} tracks</span>
          </Palette.Item>
        ))}
      </Palette.Group>
    </>
  );
}

/** Of more nobody sees the rest. */
const mostLately = 6;

function Offered({
  heading,
  list,
  run,
}: {
  heading: string;
  list: readonly Command[];
  run: (command: Command) => () => void;
}) {
  if (list.length === 0) return null;
  return (
    <Palette.Group heading={heading}>
      {list.map((c) => (
        <Palette.Item
          key={c.title}
          value={`${c.title} ${heading}`}
          className={item}
          onSelect={run(c)}
        >
          {c.title}
          {c.key && <kbd className="num text-faint">{keyNow(c.key)}</kbd>}
        </Palette.Item>
      ))}
    </Palette.Group>
  );
}

/** What can be done wherever one is. */
function useAnywhere(): readonly Command[] {
  const navigate = useNavigate();
  const here = useLocation().pathname;
  const { theme, setTheme } = usePreferences();
  const to = (title: string, path: string): Command => ({
    title,
    run: () => void navigate(path),
  });
  return [
    ...(here === '/' ? [] : [to('All songs', '/')]),
    to('Recipes', '/recipes'),
    to('Receivers', '/receivers'),
    to('Shelf', '/shelf'),
    to('Instruments', '/instruments'),
    { title: 'All keys, and what they are changed to', key: 'keys', run: () => openKeys() },
    {
      title: theme === 'day' ? 'Night theme' : 'Day theme',
      run: () => setTheme(theme === 'day' ? 'night' : 'day'),
    },
  ];
}
