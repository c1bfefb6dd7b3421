import { Command, useCommandState } from 'cmdk';
import { useDeferredValue, useEffect, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { useSongs } from '../api/queries.ts';
import { useCommands } from '../state/commands.ts';
import { usePreferences } from '../state/preferences.ts';

const item =
  'flex justify-between gap-4 rounded-[5px] px-3 py-1.5 data-[selected=true]:bg-amber-soft';

/** Everything that can be done or opened from here, by name. Ctrl+K, or ⌘K. */
export function CommandPalette() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.key.toLowerCase() !== 'k' || !(e.ctrlKey || e.metaKey)) return;
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
    <Command.Dialog
      open={open}
      onOpenChange={setOpen}
      label="Commands"
      loop
      overlayClassName="fixed inset-0 z-40 bg-ink/25"
      contentClassName="fixed top-[14vh] left-1/2 z-50 w-[min(560px,92vw)] -translate-x-1/2 rounded-lg border border-line bg-sheet p-2 shadow-xl"
    >
      <Command.Input
        placeholder="What next?"
        aria-label="What next?"
        className="w-full bg-transparent px-3 py-2 text-[15px] outline-none placeholder:text-faint"
      />
      <Command.List className="mt-1 max-h-[50vh] overflow-auto [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-faint">
        <Command.Empty className="px-3 py-4 text-faint">Nothing of that name.</Command.Empty>
        {open && <Choices close={() => setOpen(false)} />}
      </Command.List>
    </Command.Dialog>
  );
}

function Choices({ close }: { close: () => void }) {
  const commands = useCommands((s) => s.commands);
  const steps = useCommands((s) => s.groups.get('steps')) ?? [];
  const search = useDeferredValue(useCommandState((state) => state.search));
  const songs = useSongs(search, 30);
  const navigate = useNavigate();
  const here = useLocation().pathname;
  const { theme, setTheme } = usePreferences();
  const run = (action: () => void) => () => {
    close();
    action();
  };
  return (
    <>
      {commands.length > 0 && (
        <Command.Group heading="Here">
          {commands.map((c) => (
            <Command.Item key={c.title} className={item} onSelect={run(c.run)}>
              {c.title}
              {c.keys && <span className="num text-faint">{c.keys}</span>}
            </Command.Item>
          ))}
        </Command.Group>
      )}
      {search !== '' && steps.length > 0 && (
        <Command.Group heading="Steps">
          {steps.map((c) => (
            <Command.Item key={c.title} className={item} onSelect={run(c.run)}>
              {c.title}
            </Command.Item>
          ))}
        </Command.Group>
      )}
      <Command.Group heading="Anywhere">
        {here !== '/' && (
          <Command.Item className={item} onSelect={run(() => void navigate('/'))}>
            All songs
          </Command.Item>
        )}
        <Command.Item className={item} onSelect={run(() => void navigate('/recipes'))}>
          Recipes
        </Command.Item>
        <Command.Item className={item} onSelect={run(() => void navigate('/receivers'))}>
          Receivers
        </Command.Item>
        <Command.Item className={item} onSelect={run(() => void navigate('/shelf'))}>
          Shelf
        </Command.Item>
        <Command.Item className={item} onSelect={run(() => void navigate('/instruments'))}>
          Instruments
        </Command.Item>
        <Command.Item
          className={item}
          onSelect={run(() => setTheme(theme === 'day' ? 'night' : 'day'))}
        >
          {theme === 'day' ? 'Night theme' : 'Day theme'}
        </Command.Item>
      </Command.Group>
      <Command.Group heading="Songs">
        {songs.data?.songs.map((song) => (
          <Command.Item
            key={song.id}
            value={`${song.title} ${song.fileName} ${song.id}`}
            className={item}
            onSelect={run(() => void navigate(`/songs/${song.id}`))}
          >
            {song.title}
            <span className="num text-faint">{song.tracks} tracks</span>
          </Command.Item>
        ))}
      </Command.Group>
    </>
  );
}
