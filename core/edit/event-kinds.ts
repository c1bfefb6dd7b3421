import { META, meta, type Events } from '../smf/events.ts';
import { isTimed, meantType } from '../smf/own-events.ts';

/** Kinds of event as reports count them: note-ons stand for notes, their note-offs are not counted. */
export type EventKind =
  | 'note'
  | 'controller'
  | 'program'
  | 'bend'
  | 'pressure'
  | 'system exclusive'
  | 'tempo'
  | 'meter'
  | 'key'
  | 'marker'
  | 'lyric'
  | 'name'
  | 'text'
  | 'other';

const metaKinds: Readonly<Record<number, EventKind>> = {
  [meta.tempo]: 'tempo',
  [meta.timeSignature]: 'meter',
  [meta.keySignature]: 'key',
  [meta.marker]: 'marker',
  [meta.cuePoint]: 'marker',
  [meta.lyric]: 'lyric',
  [meta.text]: 'text',
  [meta.copyright]: 'text',
  [meta.trackName]: 'name',
  [meta.instrumentName]: 'name',
  [meta.programName]: 'name',
  [meta.deviceName]: 'name',
};

const channelKinds: readonly (EventKind | undefined)[] = [
  undefined,
  'note',
  'pressure',
  'controller',
  'program',
  'pressure',
  'bend',
];

/** Kind of one event; undefined for what is part of another (note-off, end of track, what a mark belongs to). */
export function kindOf(events: Events, index: number): EventKind | undefined {
  const status = events.status[index]!;
  if (isTimed(events, index)) return undefined;
  if (status === META)
    return events.data1[index] === meta.endOfTrack
      ? undefined
      : (metaKinds[meantType(events, index)] ?? 'other');
  if (status >= 0xf0) return 'system exclusive';
  if (status >> 4 === 9 && events.data2[index] === 0) return undefined;
  return channelKinds[(status >> 4) - 8];
}

export function countKinds(events: Events): Record<string, number> {
  const counts: Record<string, number> = {};
  for (let i = 0; i < events.count; i++) {
    const kind = kindOf(events, i);
    if (kind) counts[kind] = (counts[kind] ?? 0) + 1;
  }
  return counts;
}

/** How many events of each kind `after` has less than `before`. */
export function lost(before: Events, after: Events): Record<string, number> {
  const had = countKinds(before);
  const has = countKinds(after);
  return Object.fromEntries(
    Object.entries(had)
      .map(([kind, n]) => [kind, n - (has[kind] ?? 0)] as const)
      .filter(([, n]) => n > 0),
  );
}
