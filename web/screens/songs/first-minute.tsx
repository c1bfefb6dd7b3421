import type { ReactNode } from 'react';
import { FolderInput, Rows3, Send, type LucideIcon } from 'lucide-react';
import { demoFiles, type DemoFile } from '#demo/files.ts';
import { Button } from '../../components/button.tsx';
import { useTakeFiles } from '../../components/drop-anywhere.tsx';
import { useIntake } from '../../state/intake.ts';

const fileOf = ({ name, bytes }: DemoFile): File =>
  new File([bytes() as Uint8Array<ArrayBuffer>], name, { type: 'audio/midi' });

/** What stands where nothing has come in yet: the work in three stages, and something to try it on. */
export default function FirstMinute() {
  const take = useTakeFiles();
  const busy = useIntake(({ arrivals }) =>
    arrivals.some((a) => a.state !== 'in' && a.state !== 'refused'),
  );
  return (
    <section aria-label="How it goes" className="grid gap-4 pt-2 lg:grid-cols-3">
      <Stage Icon={FolderInput} title="Bring in">
        <p>
          Drop your files anywhere. Nothing is changed by that: you see what each holds first, and
          its original stays as it came.
        </p>
        <p className="mt-3 mb-1 text-faint">No file at hand? Take one of these:</p>
        <ul aria-label="Demo songs" className="space-y-1">
          {demoFiles.map((demo) => (
            <li key={demo.name}>
              <button
                type="button"
                disabled={busy}
                className="w-full rounded border border-line bg-paper px-2 py-1 text-left hover:border-stitch disabled:opacity-55"
                onClick={() => void take([fileOf(demo)])}
              >
                <span className="font-medium">{demo.name.replace(/\.mid$/, '')}</span>
                <span className="block text-[12.5px] text-faint">{demo.says}</span>
              </button>
            </li>
          ))}
        </ul>
        <Button className="mt-2" disabled={busy} onClick={() => void take(demoFiles.map(fileOf))}>
          All of them
        </Button>
      </Stage>
      <Stage Icon={Rows3} title="Look over, and clean">
        <Lines
          lines={[
            'Every track with its notes, pitches, velocities and controllers, bar by bar, and heard with sounds that come along.',
            'What is wrong is named with counts: one velocity throughout, stale programs, floods of controllers, doubled octaves, shredded tempo ramps.',
            'Each finding is settled by a press. What a step would do is shown before it is done, and every step can be undone.',
            'Notes, lanes, events, timing, chords and bars by hand, where you want to.',
          ]}
        />
      </Stage>
      <Stage Icon={Send} title="Hand off">
        <Lines
          lines={[
            'Standard MIDI files as the receiver takes them: whole, by bars, a file a track, the drums apart; format 0 or 1, the right resolution, markers of the right kind, full length.',
            'Before they are made you read what will arrive and what will not.',
            'A slip goes along that says it, and each file is read back before it leaves.',
            'What comes back later is held against what was sent.',
          ]}
        />
      </Stage>
    </section>
  );
}

const Stage = ({
  Icon,
  title,
  children,
}: {
  Icon: LucideIcon;
  title: string;
  children: ReactNode;
}) => (
  <section aria-label={title} className="rounded-lg border border-line bg-sheet px-5 py-4">
    <h2 className="seam mb-2 flex items-center gap-2 pb-1 text-[15px] font-semibold">
      <span className="grid size-6 place-items-center rounded-full border border-amber bg-amber text-on-amber">
        <Icon size={13} aria-hidden />
      </span>
      {title}
    </h2>
    {children}
  </section>
);

const Lines = ({ lines }: { lines: readonly string[] }) => (
  <ul className="space-y-2">
    {lines.map((line) => (
      <li key={line} className="border-l-2 border-dashed border-stitch pl-2.5">
        {line}
      </li>
    ))}
  </ul>
);
