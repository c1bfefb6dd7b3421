import { useIsMutating } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useLocation, useNavigate } from 'react-router';
import type { SongRow } from '#contracts/songs.ts';
import { useSongs } from '../api/queries.ts';
import { openKeys } from '../keys/open-keys.ts';
import { keyNow } from '../keys/shown.ts';
import { useCommands, type Command } from '../state/commands.ts';
import { usePreferences } from '../state/preferences.ts';
import { foundIn, type Choice, type ChoiceGroup } from './found.ts';

/** Of more that was used lately nobody sees the rest. */
const mostLately = 6;
const none: readonly Command[] = [];

/**
 * What can be done or opened from here and answers to what is typed, and whether something better may still
 * come. `close` comes before anything that is taken.
 */
export function useChoices(
  typed: string,
  close: () => void,
): { groups: readonly ChoiceGroup[]; waiting: boolean } {
  const songs = useSongs(typed, 30);
  // A step under way will be there to undo.
  const coming = useIsMutating() > 0 || songs.isFetching;
  const song = useSongGroup(songs.data?.songs ?? [], close);
  const { groups, sure } = foundIn([...useCommandGroups(typed, close), song], typed);
  return { groups, waiting: coming && !sure };
}

function useCommandGroups(typed: string, close: () => void): ChoiceGroup[] {
  // What a message offers and the song as well is one thing.
  const offered = useCommands((s) => s.commands);
  const here = offered.filter(({ title }, n) => offered.findIndex((c) => c.title === title) === n);
  const steps = useCommands((s) => s.groups.get('steps') ?? none);
  const anywhere = useAnywhere();
  const { lately, tookCommand } = usePreferences();
  // What was used lately and can be done here comes first, and once.
  const all = [...here, ...steps, ...anywhere];
  const recent =
    typed === '' ? lately.flatMap((title) => all.find((c) => c.title === title) ?? []) : [];
  const group = (heading: string, list: readonly Command[]): ChoiceGroup => ({
    heading,
    list: list.map((command) => choiceOf(command, heading)),
  });
  const choiceOf = (command: Command, heading: string): Choice => ({
    key: `${heading} ${command.title}`,
    words: `${command.title} ${heading}`,
    title: command.title,
    aside: command.key && keyNow(command.key),
    take: () => {
      close();
      tookCommand(command.title);
      command.run();
    },
  });
  const others = (list: readonly Command[]): readonly Command[] =>
    list.filter((c) => !recent.includes(c));
  return [
    group('Lately', recent.slice(0, mostLately)),
    group('Here', others(here)),
    // Many: only for who types.
    group('Steps', typed === '' ? [] : others(steps)),
    group('Anywhere', others(anywhere)),
  ];
}

function useSongGroup(songs: readonly SongRow[], close: () => void): ChoiceGroup {
  const navigate = useNavigate();
  return {
    heading: 'Songs',
    list: songs.map((song) => ({
      key: `Songs ${song.id}`,
      words: `${song.title} ${song.fileName} ${song.tags.join(' ')}`,
      title: song.title,
      aside: `${song.tracks} tracks`,
      take: () => {
        close();
        void navigate(`/songs/${song.id}`);
      },
    })),
  };
}

/** What can be done wherever one is. */
function useAnywhere(): readonly Command[] {
  const navigate = useNavigate();
  const here = useLocation().pathname;
  const { theme, setTheme } = usePreferences();
  return useMemo(() => {
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
  }, [here, theme, navigate, setTheme]);
}
