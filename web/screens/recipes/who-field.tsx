import { useState } from 'react';
import { roleNames } from '#core/guessing/roles.ts';
import { familyNames, programNames } from '#core/instruments/general-midi.ts';
import type { Meaning } from '#core/operations/recipe/run/meaning.ts';
import { Choice } from '../../fields/choice.tsx';
import { Pills } from '../../fields/pills.tsx';
import { numbersOf } from './numbers-of.ts';

/** How tracks are told, with what each begins with when it is chosen. */
const kinds = [
  ['all', 'all tracks', 'all'],
  ['drums', 'drums', 'drums'],
  ['pitched', 'all but the drums', 'pitched'],
  ['named', 'tracks named …', { named: ['Violin'] }],
  ['numbered', 'tracks by number …', { numbered: [1] }],
  ['programs', 'programs …', { programs: [1] }],
  ['families', 'families …', { families: ['Strings'] }],
  ['roles', 'what they do …', { roles: ['bass'] }],
] as const satisfies readonly (readonly [string, string, Meaning])[];

type Kind = (typeof kinds)[number][0];
type Set = (who: Meaning) => void;

/** For which tracks a step is: said by what they are, so that it fits any song. */
export function WhoField({ n, who, set }: { n: number; who: Meaning; set: Set }) {
  const kind = (typeof who === 'string' ? who : Object.keys(who)[0]) as Kind;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2 pl-5 text-[12.5px]">
      <span className="flex items-center gap-1.5">
        for
        <Choice
          label={`Step ${n + 1} is for`}
          hidden
          value={kind}
          options={kinds.map(([value, says]) => [value, says] as const)}
          set={(chosen) => set(kinds.find(([value]) => value === chosen)![2])}
        />
      </span>
      {typeof who !== 'string' && <Which who={who} set={set} />}
    </div>
  );
}

function Which({ who, set }: { who: Exclude<Meaning, string>; set: Set }) {
  if ('named' in who) return <Names named={who.named} set={set} />;
  if ('numbered' in who) return <Numbers numbered={who.numbered} set={set} />;
  if ('programs' in who) return <Programs programs={who.programs} set={set} />;
  if ('families' in who)
    return (
      <Pills
        label="Families"
        chosen={who.families}
        options={familyNames.map((f) => [f, f] as const)}
        set={(families) =>
          families.length > 0 && set({ families: families as typeof who.families })
        }
      />
    );
  return (
    <>
      <Pills
        label="What they do"
        chosen={who.roles}
        options={roleNames.map((r) => [r, r] as const)}
        set={(roles) => roles.length > 0 && set({ roles: roles as typeof who.roles })}
      />
      <span className="text-faint">told from their notes, as the song comes</span>
    </>
  );
}

const box = 'rounded border border-line bg-paper px-1 py-0.5';

function Names({ named, set }: { named: readonly string[]; set: Set }) {
  return (
    <textarea
      aria-label="Names, one a line"
      className={`w-[260px] ${box}`}
      rows={Math.min(6, named.length + 1)}
      defaultValue={named.join('\n')}
      onBlur={(e) => {
        const names = e.target.value.split('\n').flatMap((s) => s.trim() || []);
        if (names.length > 0) set({ named: names });
      }}
    />
  );
}

function Numbers({ numbered, set }: { numbered: readonly number[]; set: Set }) {
  const [wrong, setWrong] = useState(false);
  return (
    <label className="flex items-center gap-1.5">
      numbers on the sheet
      <input
        className={`num w-[120px] ${box} ${wrong ? 'border-rust' : ''}`}
        aria-invalid={wrong}
        defaultValue={numbered.join(', ')}
        onChange={(e) => {
          const numbers = numbersOf(e.target.value);
          setWrong(!numbers);
          if (numbers) set({ numbered: numbers });
        }}
      />
      <span role="status" className="text-rust">
        {wrong && 'Write numbers like 2, 5–7.'}
      </span>
    </label>
  );
}

const byFamily = familyNames.map(
  (family, f) =>
    [
      family,
      programNames
        .slice(f * 8, f * 8 + 8)
        .map((name, n) => [f * 8 + n + 1, `${f * 8 + n + 1} ${name}`] as const),
    ] as const,
);

/** Each that is chosen goes by a press; another is added from the list. */
function Programs({ programs, set }: { programs: readonly number[]; set: Set }) {
  return (
    <>
      <Pills
        label="Programs"
        chosen={programs.map(String)}
        options={programs.map((p) => [String(p), `${p} ${programNames[p - 1]!}`] as const)}
        set={(left) => left.length > 0 && set({ programs: left.map(Number) })}
      />
      <Choice
        label="Add a program"
        hidden
        placeholder="and …"
        value={undefined as number | undefined}
        options={[]}
        groups={byFamily}
        set={(p) => set({ programs: [...new Set([...programs, p])] })}
      />
    </>
  );
}
