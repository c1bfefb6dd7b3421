import { useId, useMemo } from 'react';
import type { FindingView } from '#contracts/findings.ts';
import type { SongView } from '#contracts/songs.ts';
import { useLeave } from '../../../api/queries.ts';
import { HearButton } from '../../../components/hear-button.tsx';
import { Button } from '../../../components/button.tsx';
import { count } from '../../../components/text.ts';
import { SettleButton, small } from './settle-button.tsx';
import { askedOf, namesOf, together } from './settling.ts';
import { ShowButton } from './show-button.tsx';

/** Where every finding of a group wants a step of its own, the rest is settled one by one. */
const mostButtons = 6;

/** Several findings of one rule: settled in one go where the same step serves, or one by one. */
export function GroupCard({
  song,
  group,
  open,
  unfold,
}: {
  song: SongView;
  group: readonly FindingView[];
  open: boolean;
  unfold: () => void;
}) {
  const leave = useLeave(song.id);
  const steps = useMemo(() => together(group), [group]);
  const about = useId();
  return (
    <div data-card className="border-l-3 border-ochre-fill pl-2.5">
      <p id={about} className="font-medium">
        {group[0]!.heading}
      </p>
      <p className="text-[12px] text-faint">
        {group[0]!.why} {count(group.length, 'time')}.
      </p>
      <div className="mt-1 flex flex-wrap gap-1">
        <TogetherButtons song={song} about={about} among={group.length} steps={steps} />
      </div>
      <div className="-ml-1.5 flex flex-wrap">
        <ShowButton song={song} findings={group} about={about} />
        <Button
          kind="quiet"
          className={`${small} text-faint`}
          aria-describedby={about}
          disabled={leave.isPending}
          onClick={() => group.forEach((f) => leave.mutate({ key: f.key, leftAlone: true }))}
        >
          Leave
        </Button>
        <Button
          kind="quiet"
          className={`${small} text-faint`}
          aria-expanded={open}
          onClick={unfold}
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
    </div>
  );
}

/** What settles several at once; of steps with one title each says for which tracks it is. */
const TogetherButtons = ({
  song,
  about,
  among,
  steps,
}: {
  song: SongView;
  about: string;
  among: number;
  steps: ReturnType<typeof together>;
}) =>
  steps.slice(0, mostButtons).map((step, _, all) => {
    const alike = all.filter((s) => s.title === step.title).length > 1;
    return (
      <SettleButton
        key={JSON.stringify([step.title, step.settings])}
        {...{ song, about, step, among }}
        names={alike ? namesOf(song, step) : undefined}
      />
    );
  });

/** One finding: what it is, what settles it, and where it is. */
export function FindingCard({
  song,
  finding,
  brief = false,
}: {
  song: SongView;
  finding: FindingView;
  brief?: boolean;
}) {
  const leave = useLeave(song.id);
  const { bars } = finding;
  const about = useId();
  return (
    <div
      data-card
      className={`border-l-3 pl-2.5 ${finding.leftAlone || brief ? 'border-line' : 'border-ochre-fill'}`}
    >
      <p id={about} className={`break-words ${brief ? '' : 'font-medium'}`}>
        {finding.title}
      </p>
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
          finding.settle.map((s) => (
            <SettleButton key={s.title} song={song} about={about} step={s} among={1} />
          ))}
      </div>
      <div className="-ml-1.5 flex flex-wrap">
        {(finding.tracks.length > 0 || bars) && (
          <ShowButton song={song} findings={[finding]} about={about} />
        )}
        <Button
          kind="quiet"
          className={`${small} text-faint`}
          aria-describedby={about}
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
    </div>
  );
}
