import { useVirtualizer } from '@tanstack/react-virtual';
import { Volume2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { ClipOrder, ClipView } from '#contracts/shelf.ts';
import type { SongView } from '#contracts/songs.ts';
import { useChangeClip } from '../../api/shelf.ts';
import { NameField } from '../../components/name-field.tsx';
import { bpmText } from '../../components/text.ts';
import { programNames } from '#core/instruments/general-midi.ts';
import { soundName } from '#core/instruments/sounds.ts';
import { isRound } from '../../sound/clips.ts';
import { useClipHeard, useShelf } from '../../state/shelf.ts';
import { useClipKeys } from './use-clip-keys.ts';

const rowHeight = 30;
const grid =
  'grid grid-cols-[22px_minmax(120px,2fr)_minmax(90px,1.4fr)_90px_52px_46px_64px_60px_minmax(80px,1fr)] items-center gap-2 px-3';

export interface ClipListProps {
  readonly song: SongView | undefined;
  readonly clips: readonly ClipView[];
  /** Undefined until it is known. */
  readonly total: number | undefined;
  readonly focus: number;
  readonly setFocus: (n: number) => void;
  readonly nearEnd: () => void;
}

/** Clips as rows, of which only those in view are drawn; going from one to the next hears it. */
export function ClipList({ song, clips, total, focus, setFocus, nearEnd }: ClipListProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const [naming, setNaming] = useState<string>();
  const virtual = useVirtualizer({
    count: clips.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  useMore(clips.length, total, items.at(-1)?.index ?? 0, nearEnd);
  const { onKeyDown, hear, put } = useClipKeys({
    song,
    clips,
    focus,
    setFocus: (n) => {
      setFocus(n);
      virtual.scrollToIndex(n);
    },
    rename: (clip) => setNaming(clip.id),
  });
  const named = (): void => {
    setNaming(undefined);
    scroller.current?.focus();
  };
  return (
    <>
      <Head />
      <div
        ref={scroller}
        tabIndex={0}
        role="listbox"
        aria-label="Clips"
        aria-activedescendant={clips[focus] ? `clip-${clips[focus].id}` : undefined}
        className="min-h-0 flex-1 overflow-auto"
        onKeyDown={onKeyDown}
      >
        <HowMany total={total} />
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {items.map(({ key, index, start }) => (
            <ClipRow
              key={key}
              clip={clips[index]!}
              top={start}
              focused={index === focus}
              naming={naming === clips[index]!.id}
              named={named}
              drag={song && ((bar) => put(clips[index]!, bar))}
              press={() => {
                setFocus(index);
                hear(clips[index]!);
              }}
            />
          ))}
        </div>
      </div>
    </>
  );
}

/** Nothing is listed: because of what was asked for, or because nothing is there. */
function Nothing() {
  const { sort: _, descending: __, ...asked } = useShelf((s) => s.asked);
  const narrowed = Object.values(asked).some((v) => v !== undefined && v !== '');
  return (
    <p className="p-4 text-faint">
      {narrowed
        ? 'Nothing like that is here: ask for less above, or go to another folder.'
        : 'Nothing here: put files or a folder on the shelf, or bars of a song with “Shelf …” on its strip.'}
    </p>
  );
}

const columns: readonly (readonly [ClipOrder, string])[] = [
  ['name', 'Clip'],
  ['folder', 'Folder'],
  ['kind', 'Kind'],
  ['meter', 'Meter'],
  ['bars', 'Bars'],
  ['bpm', 'Tempo'],
  ['notes', 'Notes'],
];

/** Names of the columns: a press sorts by one, another the other way round. */
function Head() {
  const { asked, ask } = useShelf();
  return (
    <div className={`${grid} border-b border-line py-1 text-[12px] text-faint`}>
      <span />
      {columns.map(([sort, says]) => (
        <button
          key={sort}
          type="button"
          className={`truncate text-left hover:text-ink ${asked.sort === sort ? 'font-semibold text-ink' : ''}`}
          aria-pressed={asked.sort === sort}
          onClick={() =>
            ask({
              sort,
              descending: asked.sort === sort && asked.descending === 'false' ? 'true' : 'false',
            })
          }
        >
          {says}
          {asked.sort === sort && (asked.descending === 'true' ? ' ↓' : ' ↑')}
        </button>
      ))}
      <span>Plays</span>
    </div>
  );
}

function ClipRow({
  clip,
  top,
  focused,
  naming,
  named,
  drag,
  press,
}: {
  clip: ClipView;
  top: number;
  focused: boolean;
  naming: boolean;
  named: () => void;
  /** Puts it into the song at a bar; undefined where none is open. */
  drag: ((bar: number) => void) | undefined;
  press: () => void;
}) {
  const heard = useClipHeard((s) => s.clip === clip.id);
  useShelf((s) => s.turned.has(clip.id));
  return (
    <div
      id={`clip-${clip.id}`}
      role="option"
      aria-selected={focused}
      className={`${grid} absolute inset-x-0 border-b border-line ${focused ? 'bg-amber-soft' : ''}`}
      style={{ top, height: rowHeight }}
      onClick={press}
      draggable={drag !== undefined}
      onDragStart={(e) => {
        e.dataTransfer.setData('text/plain', clip.name);
        e.dataTransfer.effectAllowed = 'copy';
        useShelf.setState({ drop: drag });
      }}
      onDragEnd={() => useShelf.setState({ drop: undefined })}
    >
      <span className="text-amber" title={isRound(clip) ? 'Heard round and round' : 'Heard once'}>
        {heard && <Volume2 size={14} aria-label="is heard" />}
      </span>
      <ClipName clip={clip} naming={naming} named={named} />
      <span className="truncate text-faint" title={clip.folder}>
        {clip.folder}
      </span>
      <Facts clip={clip} />
    </div>
  );
}

/** What there is to say of a clip, in the columns behind its name. */
const Facts = ({ clip }: { clip: ClipView }) => (
  <>
    <span className="truncate">
      {clip.kind}
      <span className="text-faint">{isRound(clip) ? ' ∞' : ''}</span>
    </span>
    <span className="num">{clip.meter}</span>
    <span className="num">{clip.bars}</span>
    <span className="num">{bpmText(clip.bpm)}</span>
    <span className="num">{clip.notes.toLocaleString('en')}</span>
    <span className="truncate text-faint">{playedBy(clip)}</span>
  </>
);

const playedBy = ({ drums, program }: ClipView): string =>
  drums
    ? soundName({ program: (program ?? 1) - 1, bank: null }, true)
    : program === null
      ? 'says no program'
      : programNames[program - 1]!;

const HowMany = ({ total }: { total: number | undefined }) =>
  total === undefined ? <p className="p-4 text-faint">Looking …</p> : total === 0 && <Nothing />;

/** The name of a clip, or the field in which it gets another. */
function ClipName({ clip, naming, named }: { clip: ClipView; naming: boolean; named: () => void }) {
  const change = useChangeClip();
  return naming ? (
    <NameField
      label="Name of the clip"
      initial={clip.name}
      className="text-[12.5px]"
      done={(name) => {
        if (name && name !== clip.name) change.mutate({ id: clip.id, name });
        named();
      }}
    />
  ) : (
    <span className="truncate font-medium" title={clip.name}>
      {clip.name}
    </span>
  );
}

/** Asks for more shortly before the last that are there come into view. */
function useMore(
  there: number,
  total: number | undefined,
  last: number,
  nearEnd: () => void,
): void {
  useEffect(() => {
    if (there < (total ?? 0) && last > there - 60) nearEnd();
  });
}
