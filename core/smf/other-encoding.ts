import { packEvents } from './event-builder.ts';
import { META, eventValues, type Events, type EventValue } from './events.ts';
import { keptText, staysEvent } from './own-events.ts';
import { decodeText, type TextEncodingName } from './text.ts';
import { encodeFor } from './text-encode.ts';

/** Types of the metas that are texts (SMF 1.0: 01–0F). */
const isText = (type: number): boolean => type >= 1 && type <= 15;

/**
 * Events whose texts say the same in a song that reads them by another encoding; the same object where they
 * do so as they are.
 */
export function inOtherEncoding(
  events: Events,
  from: TextEncodingName,
  to: TextEncodingName,
): Events {
  if (from === to) return events;
  let changed = false;
  const values = eventValues(events).map((event): EventValue => {
    if (event.status !== META) return event;
    const own = keptText(event);
    if (!own && !isText(event.data1)) return event;
    const bytes = own?.text ?? event.payload;
    const text = decodeText(bytes, from);
    if (bytes.every((b) => b < 0x80) || decodeText(bytes, to) === text) return event;
    changed = true;
    const payload = encodeFor(text, to);
    return own ? staysEvent(event.atTick, own.type, payload) : { ...event, payload };
  });
  return changed ? packEvents(values) : events;
}
