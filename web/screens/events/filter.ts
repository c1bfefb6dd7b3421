import { META, meta, timingMetas, type Events } from '#core/smf/events.ts';
import { eventWords } from '#core/song/event-words.ts';
import type { TextEncodingName } from '#core/smf/text.ts';

export const kinds = ['everything', 'notes', 'controllers', 'programs', 'bend', 'pressure', 'system exclusive', 'texts', 'timing'] as const;
export type Kind = (typeof kinds)[number];

function isKind(events: Events, i: number, kind: Kind): boolean {
  const status = events.status[i]!;
  const type = events.data1[i]!;
  switch (kind) {
    case 'everything':
      return true;
    case 'notes':
      return status >> 4 === 9 && events.data2[i] !== 0;
    case 'controllers':
      return status >> 4 === 0xb;
    case 'programs':
      return status >> 4 === 0xc || (status >> 4 === 0xb && (type === 0 || type === 32));
    case 'bend':
      return status >> 4 === 0xe;
    case 'pressure':
      return status >> 4 === 0xa || status >> 4 === 0xd;
    case 'system exclusive':
      return status === 0xf0 || status === 0xf7;
    case 'texts':
      return status === META && type >= 1 && type <= 15;
    default:
      return status === META && (timingMetas.has(type) || type === meta.keySignature || type === meta.endOfTrack);
  }
}

/**
 * Whether an event is shown: of the kind, and with the words somewhere in what it is called. Names of channel messages depend on
 * status and first data byte only, so a million events cost four thousand look-ups.
 */
export function eventFilter(kind: Kind, words: string, encoding: TextEncodingName, middleC: number): (events: Events, i: number) => boolean {
  const wanted = words.trim().toLowerCase();
  if (wanted === '') return (events, i) => isKind(events, i, kind);
  const known = new Map<number, boolean>();
  const says = (events: Events, i: number): boolean => {
    const { what, value } = eventWords(events, i, encoding, middleC);
    return `${what} ${value}`.toLowerCase().includes(wanted);
  };
  return (events, i) => {
    if (!isKind(events, i, kind)) return false;
    const status = events.status[i]!;
    // Values of notes and controllers differ; they are looked for only where a figure is typed.
    if (status >= 0xf0 || /\d/.test(wanted)) return says(events, i);
    const key = (status << 8) | events.data1[i]!;
    let found = known.get(key);
    if (found === undefined) known.set(key, (found = says(events, i)));
    return found;
  };
}
