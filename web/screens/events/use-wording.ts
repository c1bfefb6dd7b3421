import { useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import { eventWords, type EventWords } from '#core/song/event-words.ts';
import { positionAt, positionText, type MeterMap } from '#core/timing/meter-map.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { inForceAt } from '#core/harmony/in-force.ts';
import { shownChord } from '#core/harmony/shown.ts';
import { useShownChords } from '../../api/harmony.ts';
import { useMaps } from '../../api/maps.ts';
import { duration } from '../../components/text.ts';
import { usePreferences } from '../../state/preferences.ts';

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
