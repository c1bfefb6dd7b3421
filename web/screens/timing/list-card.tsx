import { useId, useMemo, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { problemOf } from '../../api/client.ts';
import { useListRead } from '../../api/lists.ts';
import { useMaps } from '../../api/maps.ts';
import { usePreview } from '../../api/preview.ts';
import { useStep, type StepAsked } from '../../api/queries.ts';
import { useShowTempos } from '../../state/shown-tempos.ts';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import type { ListRead, PlainPlaces } from '../../../core/lists/list-read.ts';
import type { ListFile } from '../../../core/lists/lists.ts';
import { MusicChoice, usualMusic, type MusicWay } from '../../intake/music-choice.tsx';
import { Check } from '../../fields/check.tsx';
import { Radios } from '../../fields/radios.tsx';

const kinds = [
  ['tempos', 'tempo'],
  ['meters', 'meter'],
  ['keys', 'key'],
  ['sections', 'section'],
  ['marks', 'marker'],
] as const;
type Kind = (typeof kinds)[number][0];
const waysIn = [
  { value: 'added', says: 'Added to what is there' },
  { value: 'instead', says: 'In place of what is there' },
] as const;
/** Faults that are named; the others are counted. */
const mostFaults = 20;

interface ListCardProps {
  readonly song: SongView;
  readonly file: ListFile;
  readonly close: () => void;
}

/**
 * What a file of places holds, before any of it is taken: which kinds, added or in place of what is there,
 * and what could not be read.
 */
export function ListCard({ song, file, close }: ListCardProps) {
  const maps = useMaps(song);
  const step = useStep(song.id, song.revision);
  const [left, leave] = useState<ReadonlySet<Kind>>(new Set());
  const [instead, setInstead] = useState(false);
  const [way, setWay] = useState(usualMusic);
  const [plain, setPlain] = useState<PlainPlaces>();
  const of = { id: useId(), file, maps };
  const undecided = useListRead(song, of).read?.asks;
  const { read, isReading } = useListRead(song, of, { instead, plain });
  const asked = useMemo(
    () => (read && !isReading ? askedOf(read, left, instead, way) : undefined),
    [read, isReading, left, instead, way],
  );
  if (!read)
    return (
      <section aria-label="List" className="text-[12.5px]">
        <ListHeading name={file.name} />
        <p className="text-faint">Reading it …</p>
        <Button onClick={close}>Not now</Button>
      </section>
    );
  const held = heldIn(read);
  return (
    <section aria-label="List" className="text-[12.5px]">
      <ListHeading name={file.name} />
      {undecided !== undefined && <BarsOrSeconds such={undecided} plain={plain} set={setPlain} />}
      {held.length === 0 && read.asks === undefined && (
        <p>It holds no places that could be read.</p>
      )}
      <Held read={read} left={left} leave={leave} />
      <Faults faults={read.faults} />
      {held.length > 0 && (
        <div className="mt-2 space-y-1">
          <WayIn instead={instead} set={setInstead} />
          {song.notes > 0 && (
            <MusicChoice
              way={way}
              set={setWay}
              meters={read.meters.length > 0 && !left.has('meters')}
              tempos={read.tempos.length > 0 && !left.has('tempos')}
            />
          )}
        </div>
      )}
      <Outcome song={song} asked={asked} />
      <div className="mt-2 flex gap-1.5">
        <Button
          kind="next"
          disabled={!asked || step.isPending}
          onClick={() => asked && step.mutate(asked, { onSuccess: close })}
        >
          Bring them in
        </Button>
        <Button onClick={close}>Not now</Button>
      </div>
    </section>
  );
}

const ListHeading = ({ name }: { name: string }) => (
  <h2 className="seam mb-2 truncate pb-1 text-[14px] font-semibold" title={name}>
    {name}
  </h2>
);

const WayIn = ({ instead, set }: { instead: boolean; set: (instead: boolean) => void }) => (
  <Radios
    label="How they come in"
    value={instead ? 'instead' : 'added'}
    options={waysIn}
    set={(way) => set(way === 'instead')}
  />
);

const BarsOrSeconds = ({
  such,
  plain,
  set,
}: {
  such: string;
  plain: PlainPlaces | undefined;
  set: (plain: PlainPlaces) => void;
}) => (
  <div className="mb-2">
    <p>Are its places, such as {such}, bars or seconds?</p>
    <Radios
      label="Its places are"
      value={plain}
      options={[
        { value: 'bars', says: 'bars and beats' },
        { value: 'seconds', says: 'seconds' },
      ]}
      set={set}
      className="flex gap-3"
    />
  </div>
);

const heldIn = (read: ListRead) => kinds.filter(([kind]) => read[kind].length > 0);

interface HeldProps {
  readonly read: ListRead;
  readonly left: ReadonlySet<Kind>;
  readonly leave: (left: ReadonlySet<Kind>) => void;
}

/** Which kinds of places it holds: what is not wanted is left out. */
const Held = ({ read, left, leave }: HeldProps) =>
  heldIn(read).map(([kind, word]) => (
    <Check
      key={kind}
      checked={!left.has(kind)}
      set={(taken) => leave(new Set(taken ? [...left].filter((k) => k !== kind) : [...left, kind]))}
    >
      {count(read[kind].length, word)}
    </Check>
  ));

/** The step that brings in what is not left out; undefined where nothing is. */
function askedOf(
  read: ListRead,
  left: ReadonlySet<Kind>,
  instead: boolean,
  { music, beyond }: MusicWay,
): StepAsked | undefined {
  const taken = heldIn(read)
    .map(([kind]) => kind)
    .filter((kind) => !left.has(kind));
  if (taken.length === 0) return undefined;
  const places = Object.fromEntries(taken.map((kind) => [kind, read[kind]]));
  return {
    operation: 'timing.places',
    settings: { ...places, instead, music, beyond },
    scope: { tracks: 'all' },
  };
}

function Faults({ faults }: Pick<ListRead, 'faults'>) {
  if (faults.length === 0) return null;
  return (
    <ul className="mt-1 text-ochre" aria-label="What could not be read">
      {faults.slice(0, mostFaults).map((f) => (
        <li key={`${f.line} ${f.why}`}>
          {f.line > 0 ? `Line ${f.line}: ` : ''}
          {f.why}
        </li>
      ))}
      {faults.length > mostFaults && (
        <li>and {count(faults.length - mostFaults, 'more line', 'more lines')}</li>
      )}
    </ul>
  );
}

/** What bringing them in would do, worked out beside the page. */
function Outcome({ song, asked }: { song: SongView; asked: StepAsked | undefined }) {
  const { data, error } = usePreview(song, asked);
  useShowTempos(asked && !error ? data?.tempos : undefined);
  if (!asked) return null;
  if (error) {
    const { message, expected, found } = problemOf(error);
    return (
      <p role="alert" className="mt-2 border-l-3 border-rust pl-2">
        {message}: expected {expected}; found {found}.
      </p>
    );
  }
  if (!data) return <p className="mt-2 text-faint">Working it out …</p>;
  if (!data.changed)
    return (
      <p className="mt-2 text-faint">{data.report.skipped[0]?.why ?? 'It would change nothing.'}</p>
    );
  const details = data.report.changes.flatMap((c) => (c.detail ? [c.detail] : []));
  return details.length === 0 ? null : <p className="mt-2">{details.join('; ')}.</p>;
}
