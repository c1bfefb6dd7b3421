import { META, meta, payloadOf, type Events } from '../smf/events.ts';

/** What SMF 1.0 wants in the first track of a format 1 file. */
export const firstTrackOnly: ReadonlySet<number> = new Set([
  meta.tempo,
  meta.timeSignature,
  meta.smpteOffset,
]);

export const isTiming = (events: Events, i: number): boolean =>
  events.status[i] === META && firstTrackOnly.has(events.data1[i]!);

/** Rows of tempo and meter events that state what is in force already. */
export function repeats(events: Events): Set<number> {
  const inForce = new Map<number, string>();
  const rows = new Set<number>();
  for (let i = 0; i < events.count; i++) {
    if (!isTiming(events, i) || events.data1[i] === meta.smpteOffset) continue;
    const said = payloadOf(events, i).join();
    if (inForce.get(events.data1[i]!) === said) rows.add(i);
    inForce.set(events.data1[i]!, said);
  }
  return rows;
}
