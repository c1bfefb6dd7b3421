import { useMemo, useState } from 'react';
import type { FindingView } from '#contracts/findings.ts';
import type { SongView } from '#contracts/songs.ts';
import { useFindings, useLeave, type StepAsked } from '../../api/queries.ts';
import { problemOf } from '../../api/client.ts';
import { ProblemNote } from '../../components/problem-note.tsx';
import { HearButton } from '../../components/hear-button.tsx';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import { usePreparedStep } from '../../state/step.ts';
import { useScope } from '../../state/scope.ts';

/** What the look-over noticed, each with the steps that would settle it. */
export function FindingsList({ song }: { song: SongView }) {
  const { data, error } = useFindings(song.id, song.revision);
  const [showLeft, setShowLeft] = useState(false);
  if (error) return <ProblemNote problem={problemOf(error)} harm />;
  if (!data) return <p className="mb-4 text-faint">Looking the song over …</p>;
  const open = data.findings.filter((f) => !f.leftAlone);
  const left = data.findings.filter((f) => f.leftAlone);
  return (
    <section aria-label="Findings" className="mb-5">
      <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">
        {open.length === 0 ? 'Nothing to settle' : count(open.length, 'finding')}
      </h2>
      {open.length === 0 && <p className="text-moss">The look-over found nothing that is open.</p>}
      <ul className="space-y-2">
        {grouped(open).map((group) =>
          group.length === 1 ? (
            <FindingCard key={group[0]!.key} song={song} finding={group[0]!} />
          ) : (
            <GroupCard key={group[0]!.rule} song={song} group={group} />
          ),
        )}
      </ul>
      {left.length > 0 && (
        <button
          type="button"
          className="mt-2 text-[12px] text-faint underline decoration-line underline-offset-4"
          aria-expanded={showLeft}
          onClick={() => setShowLeft(!showLeft)}
        >
          {count(left.length, 'finding')} left alone
        </button>
      )}
      {showLeft && (
        <ul className="mt-2 space-y-2">
          {left.map((finding) => (
            <FindingCard key={finding.key} song={song} finding={finding} />
          ))}
        </ul>
      )}
    </section>
  );
}

/** Findings of one rule together, in the order of the rules. */
function grouped(findings: readonly FindingView[]): FindingView[][] {
  const groups = new Map<string, FindingView[]>();
  for (const f of findings) {
    const group = groups.get(f.rule);
    if (group) group.push(f);
    else groups.set(f.rule, [f]);
  }
  return [...groups.values()];
}

/** The steps of several findings; those that are alike but for their tracks become one on all of them. */
function together(group: readonly FindingView[]): Settling[] {
  const steps = new Map<string, Settling>();
  for (const s of group.flatMap((f) => f.settle)) {
    const key = JSON.stringify([s.title, s.operation, s.settings, s.scope.bars]);
    const had = steps.get(key);
    const [before, own] = [had?.scope.tracks ?? [], s.scope.tracks];
    steps.set(
      key,
      before === 'all' || own === 'all'
        ? s
        : { ...s, scope: { ...s.scope, tracks: [...before, ...own] } },
    );
  }
  // What serves most comes first.
  const many = ({ scope: { tracks } }: Settling): number =>
    tracks === 'all' ? Infinity : tracks.length;
  return [...steps.values()].sort((a, b) => many(b) - many(a));
}

/** The parts that a step is for, as the sheet has them. */
function namesOf(song: SongView, { scope: { tracks } }: Settling): string {
  const wanted = song.tracks.flatMap((t, i) =>
    tracks !== 'all' && tracks.includes(t.id) ? [t.name || `track ${i + 1}`] : [],
  );
  return wanted.length > 2
    ? `${wanted.slice(0, 2).join(', ')} and ${wanted.length - 2} more`
    : wanted.join(', ');
}

/** Where every finding of a group wants a step of its own, the rest is settled one by one. */
const mostButtons = 6;

type Settling = FindingView['settle'][number];

/** A step that would settle something, as it is asked for. */
const askedOf = ({ operation, settings, scope }: Settling): StepAsked => ({
  operation,
  settings: { ...settings },
  scope: {
    tracks: scope.tracks === 'all' ? 'all' : [...scope.tracks],
    ...(scope.bars ? { bars: scope.bars } : {}),
  },
});

const small = '!px-1.5 !py-0.5 !text-[12px] !whitespace-normal text-left';

function SettleButton({
  step,
  among,
  names,
}: {
  step: Settling;
  among: number;
  names?: string | undefined;
}) {
  const { prepare } = usePreparedStep();
  const { tracks, bars } = step.scope;
  return (
    <Button
      className={small}
      onClick={() =>
        prepare({
          operation: step.operation,
          settings: step.settings,
          ...(tracks === 'all' ? {} : { tracks }),
          bars: bars ?? 'all',
        })
      }
    >
      {step.title}
      {names ? `: ${names}` : among > 1 && tracks !== 'all' && ` (${tracks.length})`}
    </Button>
  );
}

/** Several findings of one rule: settled in one go where the same step serves, or one by one. */
function GroupCard({ song, group }: { song: SongView; group: readonly FindingView[] }) {
  const [open, setOpen] = useState(false);
  const leave = useLeave(song.id);
  const select = useScope((s) => s.select);
  const tracks = [...new Set(group.flatMap((f) => f.tracks))];
  const steps = useMemo(() => together(group), [group]);
  return (
    <li className="border-l-3 border-ochre-fill pl-2.5">
      <p className="font-medium">{group[0]!.heading}</p>
      <p className="text-[12px] text-faint">
        {group[0]!.why} {count(group.length, 'time')}.
      </p>
      <div className="mt-1 flex flex-wrap gap-1">
        {steps.slice(0, mostButtons).map((step, _, all) => (
          <SettleButton
            key={JSON.stringify([step.title, step.settings])}
            step={step}
            among={group.length}
            names={
              all.filter((s) => s.title === step.title).length > 1 ? namesOf(song, step) : undefined
            }
          />
        ))}
      </div>
      <div className="-ml-1.5 flex flex-wrap">
        <Button
          kind="quiet"
          className={`${small} text-faint`}
          onClick={() => select(tracks, tracks[0])}
        >
          Show
        </Button>
        <Button
          kind="quiet"
          className={`${small} text-faint`}
          disabled={leave.isPending}
          onClick={() => group.forEach((f) => leave.mutate({ key: f.key, leftAlone: true }))}
        >
          Leave
        </Button>
        <Button
          kind="quiet"
          className={`${small} text-faint`}
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {open ? 'Fold' : 'One by one'}
        </Button>
        <HearButton
          by={group[0]!.rule}
          steps={steps.slice(0, 1).map(askedOf)}
          brief
          className={`${small} text-faint`}
        />
      </div>
      {open && (
        <ul className="mt-2 space-y-2">
          {group.map((finding) => (
            <FindingCard key={finding.key} song={song} finding={finding} brief />
          ))}
        </ul>
      )}
    </li>
  );
}

function FindingCard({
  song,
  finding,
  brief = false,
}: {
  song: SongView;
  finding: FindingView;
  brief?: boolean;
}) {
  const leave = useLeave(song.id);
  const { select, span } = useScope();
  const { bars } = finding;
  return (
    <li
      className={`border-l-3 pl-2.5 ${finding.leftAlone || brief ? 'border-line' : 'border-ochre-fill'}`}
    >
      <p className={`break-words ${brief ? '' : 'font-medium'}`}>{finding.title}</p>
      <p className="text-[12px] text-faint">
        {!brief && finding.why}
        {bars &&
          ` ${bars.from === bars.to ? `Bar ${bars.from.toLocaleString('en')}` : `Bars ${bars.from.toLocaleString('en')} to ${bars.to.toLocaleString('en')}`}.`}
        {finding.sure !== 'certain' && (
          <em> {finding.sure === 'likely' ? 'Likely.' : 'Possible.'}</em>
        )}
      </p>
      <div className="mt-1 flex flex-wrap gap-1">
        {!finding.leftAlone &&
          finding.settle.map((s) => <SettleButton key={s.title} step={s} among={1} />)}
      </div>
      <div className="-ml-1.5 flex flex-wrap">
        {(finding.tracks.length > 0 || bars) && (
          <Button
            kind="quiet"
            className={`${small} text-faint`}
            onClick={() => {
              select(finding.tracks, finding.tracks[0]);
              span(bars);
            }}
          >
            Show
          </Button>
        )}
        <Button
          kind="quiet"
          className={`${small} text-faint`}
          disabled={leave.isPending}
          onClick={() => leave.mutate({ key: finding.key, leftAlone: !finding.leftAlone })}
        >
          {finding.leftAlone ? 'Take up again' : 'Leave'}
        </Button>
        {finding.settle[0] && (
          <HearButton
            by={finding.key}
            steps={[askedOf(finding.settle[0])]}
            brief
            className={`${small} text-faint`}
          />
        )}
      </div>
    </li>
  );
}
