import { ChevronDown, ChevronRight, Eraser } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { laneWords } from '#core/edit/lane-settings.ts';
import type { Events } from '#core/smf/events.ts';
import { lanesOf } from '#core/song/lanes.ts';
import { count } from '../../components/text.ts';
import { ToggleButton } from '../../components/toggle-button.tsx';
import { Choice } from '../../fields/choice.tsx';
import { usePlane } from '../../plane/use-plane.ts';
import { ZoomButtons } from '../../plane/zoom-buttons.tsx';
import { firstMarked, useMarked } from '../../state/marked.ts';
import { usePreferences } from '../../state/preferences.ts';
import { useScope } from '../../state/scope.ts';
import { isStill, laneGroups, laneOf, type LaneGroup, type LaneOfTrack } from './lane-groups.ts';
import { LaneRow } from './lane-row.tsx';

/** More lanes than this nobody looks at together. */
const mostRows = 60;

interface Props {
  readonly song: SongView;
  readonly tracks: readonly TrackView[];
  readonly events: readonly Events[];
}

/**
 * Lanes beneath each other, on one time axis. Those that move share the height there is; those that hold one
 * value are a line each until they are asked to be as high.
 */
export function LaneList({ song, tracks, events }: Props) {
  const bars = useScope((s) => s.bars);
  const marked = useMarked(song);
  const plane = usePlane(song, tracks, bars, firstMarked(marked));
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (marked) list.current?.focus();
  }, [marked]);
  const [erasing, setErasing] = useState(false);
  const [only, setOnly] = useState('');
  const lanesBy = usePreferences((p) => p.lanesBy);
  const [folded, fold] = useToggles();
  const [high, raise] = useToggles();
  const lanes = useLanes(song, tracks, events);
  const kinds = useMemo(() => kindsOf(lanes), [lanes]);
  const wanted = lanes.filter((l) => only === '' || String(l.lane.what) === only);
  const groups = shownGroups(laneGroups(wanted, lanesBy), folded);
  const leads = groups.flatMap((g) => (folded.has(g.key) ? [] : g.lanes))[0];
  return (
    <>
      <Head
        {...{ kinds, only, erasing }}
        counted={`${count(wanted.length, 'lane')} of ${ofTracks(tracks)}`}
        show={setOnly}
        erase={setErasing}
      >
        <ZoomButtons plane={plane} song={song} bars={bars} />
      </Head>
      <div
        role="group"
        data-begin
        aria-label="Lanes"
        ref={list}
        tabIndex={-1}
        className="flex min-h-0 flex-1 flex-col overflow-y-auto outline-none"
      >
        {groups.map((group) => (
          <Group
            key={group.key}
            group={group}
            open={!folded.has(group.key)}
            toggle={() => fold(group.key)}
          >
            {group.lanes.map((one) => (
              <LaneRow
                key={one.key}
                {...{ song, one, plane, erasing, bars }}
                by={lanesBy}
                leads={one === leads}
                low={isStill(one.lane) && !high.has(one.key)}
                raise={isStill(one.lane) ? () => raise(one.key) : undefined}
              />
            ))}
          </Group>
        ))}
        <MoreLanes left={groups.reduce((n, g) => n - g.lanes.length, wanted.length)} />
      </div>
    </>
  );
}

const kindsOf = (lanes: readonly LaneOfTrack[]): [string, string][] => [
  ...new Map(lanes.map((l) => [String(l.lane.what), laneWords(l.lane.what)])),
];

/** What is not shown, and how it would be. */
const MoreLanes = ({ left }: { left: number }) =>
  left > 0 && (
    <p className="p-3 text-faint">
      and {left} more: select tracks on the sheet, show one controller, or fold what stands above.
    </p>
  );

/** Every lane of the tracks, with what it is called and how it moves. */
const useLanes = (
  song: SongView,
  tracks: readonly TrackView[],
  events: readonly Events[],
): readonly LaneOfTrack[] =>
  useMemo(
    () =>
      tracks.flatMap((track, i) => {
        const part = track.name || `track ${song.tracks.indexOf(track) + 1}`;
        return lanesOf(events[i]!).map((lane) => laneOf(track, part, events[i]!, lane));
      }),
    [song.tracks, tracks, events],
  );

/** Lanes that stand together below their heading; folded they are not there. */
const Group = ({
  children,
  ...head
}: {
  group: LaneGroup;
  open: boolean;
  toggle: () => void;
  children: ReactNode;
}) => (
  <section aria-label={head.group.title} className="contents">
    <GroupHead {...head} />
    {head.open && <ul className="contents">{children}</ul>}
  </section>
);

const ofTracks = (tracks: readonly TrackView[]): string =>
  tracks.length === 1 ? tracks[0]!.name || 'one track' : count(tracks.length, 'track');

/** Which lanes are shown and how they stand together; what drags do to them. */
function Head({
  counted,
  kinds,
  only,
  show,
  erasing,
  erase,
  children,
}: {
  readonly counted: string;
  readonly kinds: readonly (readonly [string, string])[];
  readonly only: string;
  readonly show: (only: string) => void;
  readonly erasing: boolean;
  readonly erase: (on: boolean) => void;
  readonly children: ReactNode;
}) {
  const { lanesBy, setLanesBy } = usePreferences();
  return (
    <div className="flex flex-wrap items-center gap-3 border-b border-line px-3 py-1.5">
      <h2 className="text-[16px] font-semibold">Lanes</h2>
      <span className="text-faint">{counted}</span>
      <div className="ml-auto flex flex-wrap items-center gap-3">
        {children}
        <Choice
          label="Together by"
          value={lanesBy}
          options={[
            ['track', 'track'],
            ['controller', 'controller'],
          ]}
          set={setLanesBy}
        />
        <Choice label="Show" value={only} options={[['', 'every lane'], ...kinds]} set={show} />
      </div>
      <ToggleButton pressed={erasing} set={erase} title="Dragging takes values out">
        <Eraser size={13} aria-hidden /> Erase
      </ToggleButton>
    </div>
  );
}

/** As many groups as can be looked at together; folded ones cost nothing. */
function shownGroups(
  groups: readonly LaneGroup[],
  folded: ReadonlySet<string>,
): readonly LaneGroup[] {
  let room = mostRows;
  return groups.flatMap((group) => {
    if (folded.has(group.key)) return [group];
    const lanes = group.lanes.slice(0, room);
    room -= lanes.length;
    return lanes.length === 0 ? [] : [{ ...group, lanes }];
  });
}

const GroupHead = ({
  group: { title, lanes },
  open,
  toggle,
}: {
  group: LaneGroup;
  open: boolean;
  toggle: () => void;
}) => (
  <h3 className="sticky top-0 z-10 shrink-0 border-b border-line bg-paper">
    <button
      type="button"
      aria-expanded={open}
      className="flex w-full items-center gap-1.5 px-2 py-0.5 text-left text-[12.5px] hover:bg-sheet"
      onClick={toggle}
    >
      {open ? <ChevronDown size={13} aria-hidden /> : <ChevronRight size={13} aria-hidden />}
      <span className="truncate font-medium">{title}</span>
      <span className="shrink-0 text-faint">{count(lanes.length, 'lane')}</span>
    </button>
  </h3>
);

/** Names that are so or not, and what turns one over. */
function useToggles(): readonly [ReadonlySet<string>, (name: string) => void] {
  const [on, set] = useState<ReadonlySet<string>>(new Set());
  const toggle = (name: string): void =>
    set((was) => {
      const next = new Set(was);
      if (!next.delete(name)) next.add(name);
      return next;
    });
  return [on, toggle];
}
