import { Plus, X } from 'lucide-react';
import { keyName } from '#core/units/units.ts';
import { Button } from '../components/button.tsx';
import { usePreferences } from '../state/preferences.ts';
import { input, type FieldProps } from './field.ts';
import { Note } from './note.tsx';
import { ProgramChoice } from './sound-fields.tsx';

interface Player {
  readonly name?: string;
  readonly program?: number | null;
  readonly lowest?: number | null;
  readonly highest?: number | null;
  readonly octaves?: number;
}
const most = 16;

/** Who plays, from the highest to the lowest: name, instrument, range, and octaves. */
export function PlayersField({ field, value, set }: FieldProps) {
  const players = (Array.isArray(value) ? value : []) as Player[];
  const change = (n: number, its: Player): void =>
    set(players.map((p, i) => (i === n ? { ...p, ...its } : p)));
  return (
    <fieldset>
      <legend>{field.title}</legend>
      <ol className="mt-1 flex flex-col gap-1.5">
        {players.map((player, n) => (
          <PlayerRow
            key={n}
            place={n + 1}
            player={player}
            change={(its) => change(n, its)}
            remove={players.length > 1 ? () => set(players.filter((_, i) => i !== n)) : undefined}
          />
        ))}
      </ol>
      <Button
        className="mt-1.5"
        disabled={players.length >= most}
        onClick={() => set([...players, {}])}
      >
        <Plus size={13} aria-hidden /> A player
      </Button>
      <Note field={field} />
    </fieldset>
  );
}

interface RowProps {
  readonly place: number;
  readonly player: Player;
  readonly change: (its: Player) => void;
  readonly remove: (() => void) | undefined;
}

function PlayerRow({ place, player, change, remove }: RowProps) {
  return (
    <li className="border-l-2 border-line pl-2">
      <span className="flex items-center gap-1.5">
        <input
          aria-label={`Name of player ${place}`}
          placeholder={`player ${place}`}
          className={`${input} min-w-0 flex-1`}
          value={player.name ?? ''}
          maxLength={200}
          onChange={(e) => change({ name: e.target.value })}
        />
        {remove && (
          <Button kind="quiet" aria-label={`Player ${place} goes`} onClick={remove}>
            <X size={13} aria-hidden />
          </Button>
        )}
      </span>
      <span className="mt-1 flex items-center gap-1.5">
        <ProgramChoice
          label={`Instrument of player ${place}`}
          hidden
          value={player.program}
          set={(program) => change({ program })}
        />
      </span>
      <span className="mt-1 flex flex-wrap items-center gap-1.5 text-[12px]">
        <KeyBox
          label={`Lowest key of player ${place}`}
          value={player.lowest}
          set={(lowest) => change({ lowest })}
        />
        to
        <KeyBox
          label={`Highest key of player ${place}`}
          value={player.highest}
          set={(highest) => change({ highest })}
        />
        <label className="ml-auto flex items-center gap-1">
          octaves
          <input
            type="number"
            aria-label={`Octaves of player ${place}`}
            className={`${input} num w-[46px]`}
            min={-4}
            max={4}
            value={player.octaves ?? 0}
            onChange={(e) =>
              change({
                octaves: Math.max(-4, Math.min(4, Math.round(Number(e.target.value)) || 0)),
              })
            }
          />
        </label>
      </span>
    </li>
  );
}

/** A key by its number, with its name beside it; empty for what the instrument can play. */
function KeyBox({
  label,
  value,
  set,
}: {
  label: string;
  value: number | null | undefined;
  set: (value: number | null) => void;
}) {
  const middleC = usePreferences((p) => p.middleC);
  return (
    <span className="flex items-center gap-1">
      <input
        type="number"
        aria-label={label}
        placeholder="any"
        className={`${input} num w-[54px]`}
        min={0}
        max={127}
        value={value ?? ''}
        onChange={(e) =>
          set(
            e.target.value === ''
              ? null
              : Math.max(0, Math.min(127, Math.round(Number(e.target.value)) || 0)),
          )
        }
      />
      {typeof value === 'number' && (
        <span className="num text-faint">{keyName(value, middleC)}</span>
      )}
    </span>
  );
}
