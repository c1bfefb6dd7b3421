import { X } from 'lucide-react';
import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { Button } from '../../components/button.tsx';
import { NameField } from '../../components/name-field.tsx';
import { countsFrames, type Held, type Wanted } from '../../intake/bring-model.ts';
import { isSameChoice, usualChoices } from '../../intake/choices.ts';
import { say } from '../../messages/messages.ts';
import { usePreferences } from '../../state/preferences.ts';

interface Props {
  readonly song: SongView;
  readonly held: Held;
  readonly wanted: Wanted;
  readonly set: (wanted: Wanted) => void;
}

/** Choices that were kept under a name, each taken by one press; nothing is chosen by itself. */
export function NamedIntakes({ song, held, wanted, set }: Props) {
  const { intakes, setIntakes } = usePreferences();
  const [naming, setNaming] = useState(false);
  // Without bars to keep there is only time.
  const keepOf = (keep: Wanted['keep']): Wanted['keep'] =>
    countsFrames(song, held) ? 'seconds' : keep;
  const isNow = (one: (typeof intakes)[number]): boolean =>
    isSameChoice(wanted, { ...one, keep: keepOf(one.keep) });
  const isNew =
    !isSameChoice(wanted, { ...usualChoices, keep: keepOf('bars') }) && !intakes.some(isNow);
  const change = (now: typeof intakes, done: string): void => {
    setIntakes(now);
    say(done, { way: { label: 'Undo', onClick: () => setIntakes(intakes) } });
  };
  const keep = (name: string | undefined): void => {
    setNaming(false);
    if (name === undefined) return;
    const { take, keep: kept, how } = wanted;
    const called = name.slice(0, 60);
    const others = intakes.filter((one) => one.name !== called);
    const isThere = others.length < intakes.length;
    change(
      [...others, { name: called, take, keep: kept, how }],
      `Kept as “${called}”${isThere ? ', in place of what had that name' : ''}`,
    );
  };
  if (intakes.length === 0 && !isNew) return null;
  return (
    <fieldset className="mt-3">
      <legend className="mb-1 font-semibold">Kept choices</legend>
      <div className="flex flex-wrap gap-1">
        {intakes.map((one) => (
          <KeptIntake
            key={one.name}
            name={one.name}
            isNow={isNow(one)}
            take={() => set({ ...wanted, take: one.take, how: one.how, keep: keepOf(one.keep) })}
            forget={() =>
              change(
                intakes.filter((other) => other !== one),
                `Forgot “${one.name}”`,
              )
            }
          />
        ))}
        {isNew && !naming && (
          <Button kind="quiet" onClick={() => setNaming(true)}>
            Keep these choices …
          </Button>
        )}
        {naming && (
          <NameField label="Name of these choices" initial="" done={keep} className="w-full" />
        )}
      </div>
    </fieldset>
  );
}

interface KeptProps {
  readonly name: string;
  readonly isNow: boolean;
  readonly take: () => void;
  readonly forget: () => void;
}

const KeptIntake = ({ name, isNow, take, forget }: KeptProps) => (
  <span className="inline-flex items-center">
    <Button aria-pressed={isNow} onClick={take}>
      {name}
    </Button>
    <Button kind="quiet" aria-label={`Forget ${name}`} title="Forget" onClick={forget}>
      <X size={12} aria-hidden />
    </Button>
  </span>
);
