import { format as formatDate } from 'date-fns';
import { Accordion } from 'radix-ui';
import { useDeferredValue, useMemo, useRef, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import type { HandoffView } from '#contracts/handoffs.ts';
import type { SongView } from '#contracts/songs.ts';
import type { ForecastItem } from '#core/handoff/forecast/item.ts';
import type { HandoffAsked } from '#core/handoff/settings.ts';
import { useForecast } from '../../api/forecast.ts';
import { useHandoffs, useMakeHandoff, usePreview } from '../../api/handoffs.ts';
import { useReceivers } from '../../api/receivers.ts';
import { Button } from '../../components/button.tsx';
import { Grip } from '../../components/grip.tsx';
import { count, fileSize } from '../../components/text.ts';
import { askedOf, changesBy, handingFor } from '../../handoff/asked.ts';
import { outgoing } from '../../handoff/drag-out.ts';
import { usualHanding, useHandingOff } from '../../state/handing-off.ts';
import { useScope } from '../../state/scope.ts';
import { usePreparedStep } from '../../state/step.ts';
import { useThisSong } from '../../state/use-song.ts';
import { DivisionPart } from './division.tsx';
import { EdgesPart } from './edges-part.tsx';
import { ForecastList } from './forecast-list.tsx';
import { FormPart } from './form-part.tsx';
import { Made } from './made.tsx';
import { NamesPart } from './names-part.tsx';
import { Preview } from './preview.tsx';
import { ReceiverPart } from './receiver-part.tsx';
import { RecipePart } from './recipe-part.tsx';
import { TakePart } from './take-part.tsx';
import { TempoPart } from './tempo-part.tsx';
import { WhatGoes } from './what-goes.tsx';
import type { Setting } from './handing.ts';

/**
 * The way out: what leaves, in which files and which form; what that would be; and, once it is made, the
 * slip with its proof.
 */
export function HandoffScreen() {
  const song = useThisSong();
  const { setting, asked } = useSetting(song);
  const preview = usePreview(song.id, song.revision, asked);
  const receivers = useReceivers().data;
  const receiver = receivers?.find((r) => r.id === setting.handing.receiver);
  const told = { song, query: useForecast(song, asked, receiver), receiver: receiver?.name };
  const before = useHandoffs(song.id).data ?? [];
  const [shown, setShown] = useState<string>();
  const [fresh, setFresh] = useState<string>();
  const current = before.find((h) => h.id === shown);
  const made = (id: string): void => {
    setShown(id);
    setFresh(id);
  };
  const change: Setting['change'] = (to) => {
    setShown(undefined);
    setting.change(to);
  };
  const prepare = usePrepared(song.id);
  const remedied = (remedy: Remedy): void => {
    if ('setting' in remedy) change(changesBy(setting.handing, remedy.setting));
    else prepare(remedy.step);
  };
  const again = useAgain(song, receivers, made);
  return (
    <main aria-label="Hand off" className="min-h-0 overflow-hidden pl-4">
      <div className="beside mx-auto grid h-full max-w-[1204px] grid-cols-[378px_minmax(0,1fr)]">
        <div className="min-h-0 overflow-auto py-4 pr-1.5">
          <Heading
            asItCame={() => change({ ...usualHanding, names: undefined, version: undefined })}
          />
          <ReceiverPart {...setting} change={change} />
          <Settings {...setting} change={change} />
          <Earlier handoffs={before} current={current?.id} show={setShown} again={again} />
        </div>
        <div className="min-h-0 overflow-auto py-4 pr-6 pl-6">
          <div className="mb-3 flex items-center gap-2">
            <MakeBar
              {...{ song, asked, preview, made }}
              receiver={setting.handing.receiver}
              back={current && (() => setShown(undefined))}
            />
          </div>
          <MadeNow made={current && current.id === fresh ? current : undefined} />
          {current ? (
            <Made handoff={current} head={song.revision} fresh={current.id === fresh} />
          ) : (
            <Would preview={preview} forecast={<ForecastList {...told} remedy={remedied} />} />
          )}
        </div>
      </div>
    </main>
  );
}

/** Makes the files of a handoff once more, from the song as it is now. */
function useAgain(
  song: SongView,
  receivers: readonly { readonly id: string }[] | undefined,
  made: (id: string) => void,
): (handoff: HandoffView) => void {
  const { make } = useMakeHandoff(song.id, song.revision);
  return ({ settings, receiver }) => {
    // Who it was for may have been removed; the settings are all there.
    const still = receivers?.find((r) => r.id === receiver?.id);
    make.mutate(
      { ...(settings as HandoffAsked), ...(still ? { receiver: still.id } : {}) },
      { onSuccess: ({ id }) => made(id) },
    );
  };
}

const Heading = ({ asItCame }: { asItCame: () => void }) => (
  <div className="flex items-center gap-2">
    <h2 className="text-[16px] font-semibold">Hand off</h2>
    <Button kind="quiet" className="ml-auto" onClick={asItCame}>
      As it came
    </Button>
  </div>
);

type Remedy = NonNullable<ForecastItem['remedy']>;

/** Prepares the step that is a remedy, on the sheet. */
function usePrepared(song: string): (step: Extract<Remedy, { step: unknown }>['step']) => void {
  const prepare = usePreparedStep((s) => s.prepare);
  const go = useNavigate();
  return ({ operation, settings, scope }) => {
    const { tracks } = (scope ?? {}) as { tracks?: readonly string[] };
    prepare({
      operation,
      settings: (settings ?? {}) as Record<string, unknown>,
      bars: 'all',
      ...(tracks ? { tracks } : {}),
    });
    void go(`/songs/${song}`);
  };
}

/** Heard, where it cannot be seen that files were made just now. */
const MadeNow = ({ made }: { made: HandoffView | undefined }) => (
  <p role="status" className="sr-only">
    {made && `${count(made.files.length, 'file')} made, read back and held against the song`}
  </p>
);

/** What is set for a song, and how that is asked for with the bars and tracks of its scope. */
function useSetting(song: SongView): { setting: Setting; asked: HandoffAsked } {
  const handing = useHandingOff((s) => s.bySong[song.id]) ?? usualHanding;
  const receivers = useReceivers().data;
  const base = useMemo(
    () =>
      handingFor(
        receivers?.find((r) => r.id === handing.receiver),
        song,
        handing,
      ),
    [receivers, song, handing],
  );
  const changeOf = useHandingOff((s) => s.change);
  const tracks = useScope((s) => s.tracks);
  const bars = useScope((s) => s.bars);
  const asked = useDeferredValue(
    useMemo(() => askedOf(handing, { tracks, bars }), [handing, tracks, bars]),
  );
  return { setting: { song, handing, base, change: (to) => changeOf(song.id, to) }, asked };
}

const Would = ({
  preview,
  forecast,
}: {
  preview: ReturnType<typeof usePreview>;
  forecast: ReactNode;
}) => (
  <>
    <Preview query={preview} forecast={forecast} />
    {/* Behind what it stands below, so that nothing moves when that comes. */}
    {!preview.isPending && (
      <p className="mt-4 text-[12.5px] text-faint">
        A page cannot put files into another program by itself. Drag the grip beside the button, or
        that of a track or of the scope, straight to where the file is to go: it is made when it is
        dropped.
      </p>
    )}
  </>
);

/** Makes the files, with how far it is; or drags them out. */
function MakeBar({
  song,
  asked,
  receiver,
  preview,
  made,
  back,
}: {
  readonly song: SongView;
  readonly asked: HandoffAsked;
  readonly receiver: string | null;
  readonly preview: ReturnType<typeof usePreview>;
  readonly made: (id: string) => void;
  /** Shows again what would leave, where something else is shown. */
  readonly back: (() => void) | undefined;
}) {
  const button = useRef<HTMLButtonElement>(null);
  // What was pressed is gone by then; the focus goes nowhere else.
  const refocus = (): void => {
    requestAnimationFrame(() => {
      if (document.activeElement === document.body) button.current?.focus();
    });
  };
  const { make, progress, stop } = useMakeHandoff(song.id, song.revision);
  // While the next is worked out, what was known before is another's.
  const files = preview.error || preview.isPlaceholderData ? undefined : preview.data?.files;
  return (
    <>
      <Button
        ref={button}
        data-begin
        kind="next"
        className="min-w-[180px]"
        disabled={make.isPending || preview.isError}
        onClick={() =>
          make.mutate(
            { ...asked, ...(receiver ? { receiver } : {}) },
            { onSuccess: (h) => made(h.id), onSettled: refocus },
          )
        }
      >
        {make.isPending ? 'Writing and reading back …' : makeWords(files?.length)}
      </Button>
      {make.isPending && <Making progress={progress} stop={stop} />}
      {!make.isPending && files && <Coming song={song} asked={asked} files={files} />}
      {back && (
        <Button
          kind="quiet"
          className="ml-auto"
          onClick={() => {
            back();
            refocus();
          }}
        >
          What would leave now
        </Button>
      )}
    </>
  );
}

interface ComingProps {
  readonly song: SongView;
  readonly asked: HandoffAsked;
  readonly files: readonly { readonly name: string; readonly bytes: number }[];
}

/** What would leave, in short: dragged out, it is made. */
function Coming({ song, asked, files }: ComingProps) {
  const several = files.length > 1;
  return (
    <>
      <span className="text-faint">
        {count(files.length, 'file')}, {fileSize(files.reduce((sum, f) => sum + f.bytes, 0))}
      </span>
      <Grip
        says={several ? 'These files as a zip' : 'This file'}
        out={() => outgoing(song.id, several ? song.title : stemOf(files[0]!.name), asked, several)}
      />
    </>
  );
}

const stemOf = (name: string): string => name.replace(/\.\w+$/, '');

const Settings = (setting: Setting) => (
  <Accordion.Root type="multiple" defaultValue={['What goes', 'Divided']} className="mt-2">
    <WhatGoes {...setting} />
    <DivisionPart {...setting} />
    <NamesPart {...setting} />
    <FormPart {...setting} />
    <TakePart {...setting} />
    <TempoPart {...setting} />
    <EdgesPart {...setting} />
    <RecipePart {...setting} />
  </Accordion.Root>
);

/** How far it is, where it takes a while. */
function Making({
  progress,
  stop,
}: {
  progress: { made: number; of: number } | undefined;
  stop: () => void;
}) {
  return (
    <>
      {progress && progress.of > 1 && (
        <>
          <progress
            aria-label="Files made"
            className="h-2 w-[160px] accent-amber"
            value={progress.made}
            max={progress.of}
          />
          <span className="num text-faint">
            {progress.made} of {progress.of}
          </span>
        </>
      )}
      <Button kind="quiet" onClick={stop}>
        Stop
      </Button>
    </>
  );
}

/** What was done to the song since, in few words. */
function sinceWords({ since }: HandoffView): string {
  if (!since || since.length === 0) return 'the song is as it was';
  return since.length === 1 ? `since: ${since[0]}` : `${count(since.length, 'step')} since`;
}

function Earlier({
  handoffs,
  current,
  show,
  again,
}: {
  handoffs: readonly HandoffView[];
  current: string | undefined;
  show: (id: string) => void;
  again: (handoff: HandoffView) => void;
}) {
  if (handoffs.length === 0) return null;
  return (
    <section aria-label="Made before" className="mt-5">
      <h3 className="mb-1 text-[12px] text-faint">Made before</h3>
      <ul>
        {handoffs.map((h) => (
          <li key={h.id} className="flex items-start gap-1">
            <button
              type="button"
              aria-pressed={h.id === current}
              className="min-w-0 flex-1 rounded px-2 py-1 text-left hover:bg-sheet aria-pressed:bg-amber-soft"
              onClick={() => show(h.id)}
            >
              <span className="flex justify-between gap-2">
                <span className="truncate">
                  {h.files.length === 1 ? h.slip.file : count(h.files.length, 'file')}
                </span>
                <span className="num shrink-0 text-faint">
                  {formatDate(new Date(h.at), 'd MMM HH:mm:ss')}
                </span>
              </span>
              <span className="block truncate text-[12px] text-faint">
                {[h.receiver?.name, sinceWords(h)].filter(Boolean).join('; ')}
              </span>
            </button>
            <Button
              kind="quiet"
              className="!px-1.5 !py-1 !text-[12.5px]"
              title="Make the same files from the song as it is now"
              onClick={() => again(h)}
            >
              Again
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const makeWords = (files: number | undefined): string =>
  files === undefined
    ? 'Make the files'
    : `Make ${files > 1 ? `the ${files.toLocaleString('en')} files` : 'the file'}`;
