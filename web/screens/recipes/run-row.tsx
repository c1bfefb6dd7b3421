import { Link } from 'react-router';
import type { SongRow } from '#contracts/songs.ts';
import type { Ran } from '../../api/recipes.ts';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import { Check } from '../../fields/check.tsx';
import { ranLine, touched } from './run-words.ts';

interface Props {
  readonly song: SongRow;
  readonly chosen: boolean;
  readonly toggle: () => void;
  /** What the recipe did to it, or would do. */
  readonly ran: Ran | undefined;
  /** Undefined while that cannot be pressed. */
  readonly undo: ((ran: Ran) => void) | undefined;
}

/** A song to run the recipe on, with what became of it. */
export function RunRow({ song, chosen, toggle, ran, undo }: Props) {
  return (
    <li className="py-1">
      <Check checked={chosen} set={toggle}>
        <span className="break-words">{song.title}</span>{' '}
        <span className="num text-[12px] text-faint">{count(song.tracks, 'track')}</span>
      </Check>
      {ran && (
        <div
          className={`mt-0.5 ml-[22px] border-l-3 pl-2.5 text-[12.5px] ${ran.problem ? 'border-rust' : touched(ran) ? 'border-moss' : 'border-line'}`}
        >
          {ran.problem ? (
            <p>
              {ran.problem.message}: {ran.problem.expected}; found {ran.problem.found}.{' '}
              {ran.problem.remedy}
            </p>
          ) : (
            <p className="text-faint">{ranLine(ran)}</p>
          )}
          <p className="flex gap-3">
            <Link
              className="underline decoration-line underline-offset-4"
              aria-label={`Open ${song.title}`}
              to={`/songs/${song.id}`}
            >
              Open
            </Link>
            {!ran.preview && touched(ran) && (
              <Button
                kind="quiet"
                className="!p-0 text-[12.5px] underline decoration-line underline-offset-4"
                aria-label={`Undo on ${song.title}`}
                disabled={!undo}
                onClick={() => undo?.(ran)}
              >
                Undo
              </Button>
            )}
          </p>
        </div>
      )}
    </li>
  );
}
