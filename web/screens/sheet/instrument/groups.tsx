import { Command } from 'cmdk';
import { keyName } from '#core/units/units.ts';
import { usePreferences } from '../../../state/preferences.ts';
import { useRecentSounds } from '../../../state/recent-sounds.ts';
import { answers, candidates, families, type Candidate } from '../../../tracks/candidates.ts';

const mostOwn = 100;

interface Props {
  readonly typed: string;
  readonly defined: readonly Candidate[];
  readonly find: (key: string) => Candidate | undefined;
  readonly take: () => void;
}

/**
 * All candidates: what was given lately, the programs and kits by family, and those that are defined by
 * what they can do.
 */
export function Groups({ typed, defined, find, take }: Props) {
  const recent = useRecentSounds((s) => s.recent);
  const lately = typed === '' ? recent.flatMap((key) => find(key) ?? []) : [];
  const along = (c: Candidate): boolean => c.key.startsWith('defined along-');
  // A device may have thousands: those that answer what is typed are drawn, and no more than can be looked through.
  const own = defined.filter((c) => !along(c) && answers(c, typed) > 0).slice(0, mostOwn);
  return (
    <>
      <Group heading="Lately" list={lately} take={take} mark="lately " />
      <Group heading="Your own" list={own} take={take} />
      {families.map((family) => (
        <Group
          key={family}
          heading={family}
          list={candidates.filter((c) => c.family === family)}
          take={take}
        />
      ))}
      <Group heading="With their ranges" list={defined.filter(along)} take={take} />
    </>
  );
}

/** A candidate may stand in several groups: `mark` tells which of them it is. */
function Group({
  heading,
  list,
  take,
  mark = '',
}: {
  heading: string;
  list: readonly Candidate[];
  take: () => void;
  mark?: string;
}) {
  if (list.length === 0) return null;
  return (
    <Command.Group heading={heading}>
      {list.map((c) => (
        <Item key={c.key} value={`${mark}${c.key}`} candidate={c} take={take} />
      ))}
    </Command.Group>
  );
}

function Item({
  value,
  candidate: { name, program, definition },
  take,
}: {
  value: string;
  candidate: Candidate;
  take: () => void;
}) {
  const middleC = usePreferences((p) => p.middleC);
  const range = definition?.playable;
  return (
    <Command.Item
      value={value}
      onSelect={take}
      className="flex gap-3 rounded px-2 py-0.5 data-[selected=true]:bg-amber-soft"
    >
      <span className="num w-[26px] shrink-0 text-right text-faint">{program}</span>
      <span className="min-w-0 flex-1 truncate">{name}</span>
      {range && (
        <span className="num shrink-0 text-[12px] text-faint">
          {keyName(range.lowest, middleC)}–{keyName(range.highest, middleC)}
        </span>
      )}
    </Command.Item>
  );
}
