import { META, meta, payloadOf, SYSEX, SYSEX_PACKET, type Events } from '../smf/events.ts';

/** What of a track has to be known for the files of other tracks, whose making must not cost its events. */
export interface Outline {
  /** What its first port meta says, else the first port. */
  readonly port: number;
  /** It sends system exclusive messages, whole or in packets. */
  readonly exclusive: boolean;
  readonly copyright: boolean;
}

const known = new WeakMap<Events, Outline>();

/** Looked through once, whatever files it is asked for. */
export function outlineOf(events: Events): Outline {
  const had = known.get(events);
  if (had) return had;
  const made = lookedThrough(events);
  known.set(events, made);
  return made;
}

function lookedThrough(events: Events): Outline {
  let port: number | undefined;
  let [exclusive, copyright] = [false, false];
  for (let i = 0; i < events.count; i++) {
    const status = events.status[i]!;
    if (status < SYSEX) continue;
    if (status === SYSEX || status === SYSEX_PACKET) exclusive = true;
    else if (status === META && events.data1[i] === meta.copyright) copyright = true;
    else if (status === META && events.data1[i] === meta.port)
      port ??= payloadOf(events, i)[0] ?? 0;
  }
  return { port: port ?? 0, exclusive, copyright };
}
