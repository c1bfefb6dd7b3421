import type { EditSeveral, SetOrAdd } from '#core/operations/events/edit-several/settings.ts';
import { META } from '#core/smf/events.ts';
import { fieldsOfRow, keyTyped, partsFrom, type EventField, type Written } from './fields.ts';
import type { Listed } from './use-event-acts.ts';

/** What can be typed for several events, with what they have in common. */
export interface Several {
  /** Undefined where one of them is of no channel. */
  readonly channel: string | undefined;
  /** Fields of the first; none where they are of several kinds. `value` is that of all, or empty where they differ. */
  readonly fields: readonly EventField[];
  readonly status: number;
  readonly data1: number;
}

/** What events have in common; values are compared in the first thousands, beyond which they count as differing. */
const mostCompared = 5000;
export const various = 'various';

export function severalOf(
  { events, index }: Pick<Listed, 'events' | 'index'>,
  chosen: ReadonlySet<number>,
  as: Written,
): Several {
  const sortOf = (n: number): number => {
    const { status, data1 } = events[index.track[n]!]!;
    const row = index.row[n]!;
    if (status[row]! === META) return 0x100 + data1[row]!;
    return status[row]! < 0xf0 ? status[row]! & 0xf0 : status[row]!;
  };
  const [first = 0] = chosen;
  const { status, data1 } = events[index.track[first]!]!;
  const row = index.row[first]!;
  const sort = sortOf(first);
  let [oneSort, channel] = [true, (status[row]! & 15) + 1 + ''];
  let onChannel = true;
  for (const n of chosen) {
    if (sortOf(n) !== sort) oneSort = false;
    const its = events[index.track[n]!]!.status[index.row[n]!]!;
    if (its >= 0xf0) onChannel = false;
    if (String((its & 15) + 1) !== channel) channel = various;
  }
  const fieldsAt = (n: number): EventField[] =>
    fieldsOfRow(events[index.track[n]!]!, index.row[n]!, as);
  const fields = oneSort ? fieldsAt(first) : [];
  const common = fields.map((f) => f.value);
  if (oneSort && chosen.size <= mostCompared)
    for (const n of chosen)
      fieldsAt(n).forEach((f, i) => {
        if (f.value !== common[i]) common[i] = various;
      });
  else common.fill(various);
  return {
    channel: onChannel ? channel : undefined,
    fields: fields.map((f, i) => ({ ...f, value: common[i]! })),
    status: status[row]!,
    data1: data1[row]!,
  };
}

/** Which part of a message a field is of, where it can be set or added to. */
const partNames: Readonly<Record<string, 'data1' | 'data2' | 'length'>> = {
  Key: 'data1',
  Controller: 'data1',
  Program: 'data1',
  'Release velocity': 'data2',
  Velocity: 'data2',
  Value: 'data2',
  Length: 'length',
};

/** What was typed: "64" for all, "+5" and "-5" for so much more or less than each has. */
function setOrAdd(text: string, field: EventField, as: Written): SetOrAdd | undefined {
  const by = /^[+−-]\s*(\d{1,9})$/.exec(text);
  if (by && field.min !== undefined && field.min >= 0)
    return { by: (text.startsWith('+') ? 1 : -1) * Number(by[1]) };
  const to = field.key
    ? keyTyped(text, as.middleC)
    : /^-?\d+$/.test(text)
      ? Number(text)
      : undefined;
  return to === undefined || to < field.min! || to > field.max! ? undefined : { to };
}

type Asked = Omit<EditSeveral, 'rows'>;

/** The settings for what was typed, blank being as it is; or what is wrong with it. */
export function severalAsked(
  { status, data1, fields }: Several,
  typed: { readonly channel: string; readonly values: readonly string[] },
  as: Written,
): Asked | { readonly wrong: string } {
  const asked: Asked = {};
  const channel = typed.channel.trim();
  if (channel !== '') {
    if (!/^([1-9]|1[0-6])$/.test(channel)) return { wrong: 'Channel: a whole number from 1 to 16' };
    asked.channel = Number(channel);
  }
  const given = fields.flatMap((field, n) => {
    const text = typed.values[n]?.trim() ?? '';
    return text === '' ? [] : [{ field, text }];
  });
  if (given.length === 0)
    return channel === '' ? { wrong: 'Type what all of them are to have.' } : asked;
  if (status >= 0xf0) {
    if (given.length < fields.length) return { wrong: 'Type all of it: it is written as one.' };
    const parts = partsFrom(
      status,
      data1,
      given.map(({ field, text }) => ({ ...field, value: text })),
      new Uint8Array(0),
      as,
    );
    return 'wrong' in parts ? parts : { ...asked, payload: parts.payload ?? [] };
  }
  for (const { field, text } of given) {
    const how = setOrAdd(text, field, as);
    if (!how)
      return {
        wrong: `${field.name}: ${field.key ? 'a key' : 'a whole number'} from ${field.min} to ${field.max}${field.min! >= 0 ? ', or +5 or -5 for so much more or less' : ''}`,
      };
    if (field.name === 'Bend' && 'to' in how) asked.bend = how.to;
    else {
      // Pressure is the first byte of a channel's, the second of a key's.
      const part = partNames[field.name] ?? (status >> 4 === 0xd ? 'data1' : 'data2');
      asked[part] = field.name === 'Program' && 'to' in how ? { to: how.to - 1 } : how;
    }
  }
  return asked;
}
