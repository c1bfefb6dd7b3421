import { useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import { eventBytes, eventWords, type EventWords } from '#core/song/event-words.ts';
import { positionAt, positionText, type MeterMap } from '#core/timing/meter-map.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { inForceAt } from '#core/harmony/in-force.ts';
import { shownChord } from '#core/harmony/shown.ts';
import { useShownChords } from '../../api/harmony.ts';
import { useMaps } from '../../api/maps.ts';
import { duration } from '../../components/text.ts';
import { usePreferences } from '../../state/preferences.ts';

export const eventRowHeight = 22;

/** How places and events of a song are said. */
export interface Wording {
  readonly meters: MeterMap;
  position(tick: number): string;
  time(tick: number): string;
  /** The chord that sounds at a tick; '' where none is known. */
  chord(tick: number): string;
  words(events: Events, row: number): EventWords;
}

export function useWording(song: SongView): Wording {
  const middleC = usePreferences((p) => p.middleC);
  const maps = useMaps(song);
  const chords = useShownChords(song);
  return useMemo(() => {
    const { meters, tempo } = maps;
    return {
      meters,
      position: (tick) => positionText(positionAt(meters, tick)),
      time: (tick) => duration(ticksToSeconds(tempo, tick), true),
      chord: (tick) => shownChord(inForceAt(chords, tick)?.text ?? ''),
      words: (events, row) => eventWords(events, row, song.encoding, middleC),
    };
  }, [maps, chords, song.encoding, middleC]);
}

interface Props {
  readonly n: number;
  readonly top: number;
  readonly events: Events;
  readonly row: number;
  /** The track's name, or its place. */
  readonly label: string;
  readonly wording: Wording;
  readonly chosen: boolean;
  readonly pick: (n: number, extend: boolean, add: boolean) => void;
  readonly edit: (n: number) => void;
}

/** One event: where, when, of which track, what, its value by name, its bytes. */
export function EventRow({ n, top, events, row, label, wording, chosen, pick, edit }: Props) {
  const tick = events.atTick[row]!;
  const status = events.status[row]!;
  const { what, value } = wording.words(events, row);
  return (
    <div
      id={`event-${n}`}
      role="option"
      aria-selected={chosen}
      className={`absolute inset-x-0 grid cursor-default grid-cols-[110px_96px_70px_minmax(90px,170px)_34px_140px_minmax(140px,1fr)_170px] items-center gap-3 px-2 select-none ${chosen ? 'bg-amber-soft' : 'hover:bg-sheet'}`}
      style={{ top, height: eventRowHeight }}
      onClick={(e) => pick(n, e.shiftKey, e.ctrlKey || e.metaKey)}
      onDoubleClick={() => edit(n)}
    >
      <span className="num">{wording.position(tick)}</span>
      <span className="num text-faint">{wording.time(tick)}</span>
      <span className="truncate text-faint">{wording.chord(tick)}</span>
      <span className="truncate">{label}</span>
      <span className="num text-right">{status < 0xf0 ? (status & 15) + 1 : ''}</span>
      <span className="truncate">{what}</span>
      <span className="truncate">{value}</span>
      <span className="num truncate text-faint">{eventBytes(events, row)}</span>
    </div>
  );
}
