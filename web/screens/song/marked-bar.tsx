import { Highlighter, X } from 'lucide-react';
import { useCallback, useEffect, useMemo } from 'react';
import { NavLink, useNavigate } from 'react-router';
import { keyCommands } from '#contracts/key-commands.ts';
import type { SongView } from '#contracts/songs.ts';
import { Button } from '../../components/button.tsx';
import { commandOf } from '../../keys/pressed.ts';
import { useKeyOf } from '../../keys/shown.ts';
import { isTyping } from '../../components/is-typing.ts';
import { useOffer } from '../../state/commands.ts';
import { firstFinding, letGo, useMarked } from '../../state/marked.ts';

const views = [
  ['', 'Look over'],
  ['/notes', 'Notes'],
  ['/lanes', 'Lanes'],
  ['/events', 'Event list'],
] as const;

/**
 * What is marked, where else it can be seen, and the way back to the finding it is about; where nothing is
 * marked, the same key leads to the first.
 */
export function MarkedBar({ song }: { song: SongView }) {
  const marked = useMarked(song);
  const navigate = useNavigate();
  const key = useKeyOf('finding');
  const finding = marked?.finding ?? firstFinding;
  const back = useCallback((): void => {
    letGo();
    void navigate(`/songs/${song.id}`, { state: { finding } });
  }, [song.id, finding, navigate]);
  const commands = useMemo(
    () => [{ title: keyCommands.finding.title, key: 'finding' as const, run: back }],
    [back],
  );
  useOffer('marked', commands);
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (commandOf(e, 'song') !== 'finding' || e.defaultPrevented || isTyping(e.target)) return;
      e.preventDefault();
      back();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [back]);
  if (!marked) return null;
  return (
    <section
      aria-label="Marked"
      aria-live="polite"
      className="flex items-center gap-3 border-t border-ochre-fill bg-sheet px-3 py-1"
    >
      <Highlighter size={14} aria-hidden className="shrink-0 text-ochre" />
      <p className="min-w-0 truncate">
        <span className="font-medium">{marked.says} marked</span>
        <span className="text-faint">: {marked.title}</span>
      </p>
      <nav aria-label="Where they are seen" className="ml-auto flex shrink-0 gap-1">
        {views.map(([to, name]) => (
          <NavLink
            key={to}
            end
            to={`/songs/${song.id}${to}`}
            className="rounded px-1.5 py-0.5 text-[12.5px] hover:bg-paper aria-[current=page]:bg-amber-soft aria-[current=page]:font-medium"
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <Button
        className="!py-0.5 text-[12.5px]"
        title={`Back to the finding (${key})`}
        onClick={back}
      >
        Back to the finding
      </Button>
      <Button kind="quiet" className="!px-1" aria-label="Mark nothing" onClick={letGo}>
        <X size={14} aria-hidden />
      </Button>
    </section>
  );
}
