import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import type { ToldChordView, ToldKeyView } from '#contracts/harmony.ts';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { shownChord } from '#core/harmony/shown.ts';
import { positionAt, positionText } from '#core/timing/meter-map.ts';
import { keyName } from '#core/units/units.ts';
import { problemOf } from '../../api/client.ts';
import { useMaps } from '../../api/maps.ts';
import { ProblemNote } from '../../components/problem-note.tsx';
import { count } from '../../components/text.ts';
import { Choice } from '../../fields/choice.tsx';
import { chordsIn, voicingsOf, type ShownVoicing } from '../../harmony/voicings.ts';
import { hearKeys, hushKeys } from '../../sound/keys.ts';
import { usePreferences } from '../../state/preferences.ts';
import { useScope } from '../../state/scope.ts';
import { useTrackEvents } from '../../tracks/track-events.ts';
import { percent } from './percent.ts';

const rowHeight = 27;
const grid =
  'grid grid-cols-[92px_minmax(80px,1fr)_58px_minmax(90px,1.2fr)_minmax(110px,1.6fr)] items-center gap-3 px-4';

interface Props {
  readonly song: SongView;
  readonly told: readonly ToldChordView[];
  readonly keys: readonly ToldKeyView[];
}

/** The voicings of one part as a list: gone through by keys, and heard. */
export function Voicings(props: Props) {
  const { song } = props;
  const selected = useScope((s) => s.tracks);
  const parts = song.tracks.filter((t) => t.notes > 0 && t.channel !== 10);
  const [asked, ask] = useState<string>();
  const meant = parts.find((t) => t.id === asked) ?? parts.find((t) => selected.has(t.id));
  const chordal = useChordalPart(song, meant || parts.length < 2 ? noParts : parts);
  const part = meant ?? chordal ?? parts[0];
  if (!part) return <p className="p-4 text-faint">No part with pitched notes is here.</p>;
  return (
    <OfPart key={part.id} {...props} part={part}>
      <Choice
        label="Part"
        value={part.id}
        options={parts.map((t) => [t.id, t.name || `track ${song.tracks.indexOf(t) + 1}`] as const)}
        set={ask}
      />
    </OfPart>
  );
}

const noParts: readonly TrackView[] = [];
/** In songs of more notes the first part is shown. */
const mostLooked = 150_000;

/** The part that has the most voicings of three notes and more. */
function useChordalPart(song: SongView, parts: readonly TrackView[]): TrackView | undefined {
  const { events } = useTrackEvents(song.notes <= mostLooked ? parts : noParts);
  return useMemo(() => {
    const chords = parts.map((part, n) => (events?.[n] ? chordsIn(song, part, events[n]) : 0));
    const most = Math.max(0, ...chords);
    return most > 0 ? parts[chords.indexOf(most)] : undefined;
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the same parts are another list after each render
  }, [events]);
}

function OfPart({
  song,
  told,
  keys,
  part,
  children,
}: Props & { part: TrackView; children: ReactNode }) {
  const bars = useScope((s) => s.bars);
  const shown = useMemo(() => [part], [part]);
  const { events, error } = useTrackEvents(shown);
  const maps = useMaps(song);
  const list = useMemo(
    () =>
      events
        ? voicingsOf(song, part, events[0]!, { told, keys, meters: maps.meters, bars })
        : undefined,
    [song, part, events, told, keys, maps.meters, bars],
  );
  if (error) return <ProblemNote problem={problemOf(error)} harm />;
  return (
    <>
      <div className="flex items-center gap-3 px-4 py-1.5">
        {children}
        <span className="text-[12.5px] text-faint">
          {list ? count(list.length, 'voicing') : 'Fetching the notes …'}
          {bars ? ` in bars ${bars.from} to ${bars.to}` : ''}
        </span>
      </div>
      {list && (
        <VoicingList
          key={`${bars?.from} ${bars?.to}`}
          list={list}
          program={part.programs[0]?.program}
          place={(tick) => positionText(positionAt(maps.meters, tick))}
        />
      )}
    </>
  );
}

interface ListProps {
  readonly list: readonly ShownVoicing[];
  readonly program: number | undefined;
  readonly place: (tick: number) => string;
}

function VoicingList({ list, program, place }: ListProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const [focus, setFocus] = useState(0);
  const virtual = useVirtualizer({
    count: list.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 10,
  });
  const { press, onKeyDown } = useVoicingKeys(list, program, focus, (n) => {
    setFocus(n);
    virtual.scrollToIndex(n);
  });
  return (
    <>
      <ListHead />
      <div
        ref={scroller}
        tabIndex={0}
        role="listbox"
        aria-label="Voicings"
        aria-activedescendant={`voicing-${focus}`}
        className="min-h-0 flex-1 overflow-auto"
        onBlur={hushKeys}
        onKeyDown={onKeyDown}
      >
        {list.length === 0 && (
          <p className="p-4 text-faint">
            No notes of this part begin together: it is a line, and has no voicings.
          </p>
        )}
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ key, index, start }) => {
            return (
              <VoicingRow
                key={key}
                id={`voicing-${index}`}
                voicing={list[index]!}
                place={place}
                top={start}
                focused={index === focus}
                press={() => press(index)}
              />
            );
          })}
        </div>
      </div>
      <p className="border-t border-line px-4 py-1.5 text-[12px] text-faint">
        Arrow keys go from one to the next and hear it; Space hears it again.
      </p>
    </>
  );
}

const ListHead = () => (
  <div className={`${grid} border-b border-line py-1 text-[12px] text-faint`}>
    <span>Place</span>
    <span>Chord</span>
    <span>Sure</span>
    <span>Degrees, from the lowest</span>
    <span>Notes</span>
  </div>
);

interface RowProps extends Pick<ListProps, 'place'> {
  readonly id: string;
  readonly voicing: ShownVoicing;
  readonly top: number;
  readonly focused: boolean;
  readonly press: () => void;
}

function VoicingRow({ id, voicing, place, top, focused, press }: RowProps) {
  const { atTick, keys, degrees, name, sure, others } = voicing;
  const middleC = usePreferences((p) => p.middleC);
  return (
    <div
      id={id}
      role="option"
      aria-selected={focused}
      title={others.map((o) => `or ${shownChord(o.name)} ${percent(o.sure)}`).join('\n')}
      className={`absolute inset-x-0 ${grid} cursor-default select-none ${focused ? 'bg-amber-soft' : 'hover:bg-sheet'}`}
      style={{ top, height: rowHeight }}
      onPointerDown={press}
    >
      <span className="num text-faint">{place(atTick)}</span>
      <span className="truncate font-medium">{name ? shownChord(name) : 'no usual chord'}</span>
      <span className="num text-[12px] text-faint">{name ? percent(sure) : ''}</span>
      <span className="num truncate text-[12.5px]">{shownChord(degrees.join('  '))}</span>
      <span className="num truncate text-[12.5px] text-faint">
        {keys.map((k) => keyName(k, middleC)).join(' ')}
      </span>
    </div>
  );
}

/** Arrow keys go from one voicing to the next, which is heard; `show` is gone to it. */
function useVoicingKeys(
  list: ListProps['list'],
  program: ListProps['program'],
  focus: number,
  show: (n: number) => void,
) {
  const hear = (n: number): void => {
    const voicing = list[n];
    if (voicing) void hearKeys(voicing.keys, program);
  };
  const press = (n: number): void => {
    const to = Math.max(0, Math.min(list.length - 1, n));
    show(to);
    hear(to);
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 12, PageUp: -12 }[e.key];
    if (by !== undefined) press(focus + by);
    else if (e.key === ' ' || e.key === 'Enter') hear(focus);
    else if (e.key === 'Home') press(0);
    else if (e.key === 'End') press(list.length - 1);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return { press, onKeyDown };
}
