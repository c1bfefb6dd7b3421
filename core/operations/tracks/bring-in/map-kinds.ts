import type { Song, Track } from '../../../song/song.ts';
import { markText, timingOf } from '../../../song/timing-of.ts';
import { meta } from '../../../smf/events.ts';
import { meantType } from '../../../smf/own-events.ts';
import type { MapKind } from './settings.ts';

/** What of the song's own time a meta event says; undefined where it says nothing of it. */
export type MapKindAt = (track: Track, row: number) => MapKind | undefined;

const kinds: Readonly<Record<number, MapKind>> = {
  [meta.tempo]: 'tempos',
  [meta.timeSignature]: 'meters',
  [meta.keySignature]: 'keys',
  [meta.marker]: 'markers',
  [meta.cuePoint]: 'markers',
  [meta.smpteOffset]: 'timecode',
};

/** What one event of a kind is called. */
export const mapWords: Readonly<Record<MapKind, string>> = {
  tempos: 'tempo',
  meters: 'meter',
  keys: 'key',
  markers: 'marker',
  sections: 'section mark',
  timecode: 'timecode',
};

const placeOf = (track: string, atTick: number, text: string): string =>
  `${track} ${atTick} ${text}`;

/** Markers that say a section belong to it. */
export function mapKindsOf(song: Song): MapKindAt {
  const ofSections = new Set(
    timingOf(song).sections.flatMap((s) => s.marks.map((m) => placeOf(m.track, m.atTick, m.text))),
  );
  return ({ id, events }, i) => {
    const type = meantType(events, i);
    if (
      type === meta.marker &&
      ofSections.size > 0 &&
      ofSections.has(placeOf(id, events.atTick[i]!, markText(events, i, song.encoding)))
    )
      return 'sections';
    return kinds[type];
  };
}
