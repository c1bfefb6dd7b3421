import { X } from 'lucide-react';
import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { Button } from '../../components/button.tsx';
import { cutText } from '#core/smf/text.ts';
import { NameField } from '../../components/name-field.tsx';
import { countsFrames, type Held, type Wanted } from '../../intake/bring-model.ts';
import { isSameChoice, usualChoices } from '../../intake/choices.ts';
import { say } from '../../messages/messages.ts';
import { usePreferences } from '../../state/preferences.ts';

/** As many, and as long names, as preferences hold. */
const [maxKept, maxName] = [50, 60];

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
  /** Undo puts back this one alone: others may have been kept since. */
  const change = (name: string, now: (typeof intakes)[number] | undefined, done: string): void => {
    const had = intakes.find((one) => one.name === name);
    const put = (one: typeof had): void =>
      setIntakes([
        ...usePreferences.getState().intakes.filter((other) => other.name !== name),
        ...(one ? [one] : []),
      ]);
    put(now);
    say(done, { way: { label: 'Undo', onClick: () => put(had) } });
  };
  const keep = (name: string | undefined): void => {
    setNaming(false);
    if (name === undefined) return;
    const called = cutText(name, maxName).trim();
    const isThere = intakes.some((one) => one.name === called);
    const kept = countsFrames(song, held) ? 'bars' : wanted.keep;
    change(
      called,
      { name: called, take: wanted.take, keep: kept, how: wanted.how },
      isThere ? `Replaced “${called}”` : `Saved as “${called}”`,
    );
  };
  if (intakes.length === 0 && !isNew) return null;
  return (
    <fieldset className="mt-3 min-w-0">
      <legend className="mb-1 font-semibold">Saved choices</legend>
      <div className="flex min-w-0 flex-wrap gap-1">
        {intakes.map((one) => (
          <KeptIntake
            key={one.name}
            name={one.name}
            isNow={isNow(one)}
            take={() => set({ ...wanted, take: one.take, how: one.how, keep: keepOf(one.keep) })}
            forget={() => change(one.name, undefined, `Deleted “${one.name}”`)}
          />
        ))}
        {isNew && !naming && intakes.length < maxKept && (
          <Button kind="quiet" onClick={() => setNaming(true)}>
            Save these choices …
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
  <span className="inline-flex max-w-full items-center">
    <Button aria-pressed={isNow} onClick={take} title={name} className="min-w-0">
      <span className="truncate">{name}</span>
    </Button>
    <Button kind="quiet" aria-label={`Delete ${name}`} title="Delete" onClick={forget}>
      <X size={12} aria-hidden />
    </Button>
  </span>
);
