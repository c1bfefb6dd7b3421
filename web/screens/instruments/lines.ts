import type { InstrumentDefinition } from '#core/instruments/definition.ts';
import { keyName, parseKeyName } from '#core/units/units.ts';

/**
 * Names of keys and controllers as lines of text: they are typed, pasted and read more quickly than fields
 * are filled in.
 */

/** Lines that were understood, or what of which line was not. */
export type Lines<T> =
  { readonly ok: true; readonly rows: T[] } | { readonly ok: false; readonly why: string };

function linesOf<T>(text: string, read: (line: string) => T | undefined, form: string): Lines<T> {
  const rows: T[] = [];
  for (const [n, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue;
    const row = read(line.trim());
    if (row === undefined)
      return { ok: false, why: `Line ${n + 1}, “${line.trim().slice(0, 40)}”: ${form}` };
    rows.push(row);
  }
  return { ok: true, rows };
}

type Key = InstrumentDefinition['keys'][number];
type Controller = InstrumentDefinition['controllers'][number];

/** `36 Kick`, or `C2 Kick`. */
export const readKeys = (text: string, middleC: number): Lines<Key> =>
  linesOf(
    text,
    (line) => {
      const [, said, name] = /^(\S+)\s(.+)$/s.exec(line) ?? [];
      const key = said === undefined ? undefined : readKey(said, middleC);
      return key === undefined ? undefined : { key, name: name!.trim() };
    },
    'a key and its name, such as “36 Kick”.',
  );
export const keysText = (keys: readonly Key[]): string =>
  keys.map((k) => `${k.key} ${k.name}`).join('\n');

/** A key as a number from 0 to 127, or by its name; undefined where it is none. */
export function readKey(said: string, middleC: number): number | undefined {
  if (/^\d+$/.test(said)) return Number(said) <= 127 ? Number(said) : undefined;
  return parseKeyName(said, middleC);
}
export const keyText = (key: number, middleC: number): string => keyName(key, middleC);

/** `1 Vibrato`, `14-bit 2 Breath`, `NRPN 300 Air: 0 none; 64 half`. */
export const readControllers = (text: string): Lines<Controller> =>
  linesOf(
    text,
    (line) => {
      const [, kind = '7-bit', number, rest] =
        /^(?:(7-bit|14-bit|RPN|NRPN)\s+)?(\d+)\s(.+)$/s.exec(line) ?? [];
      if (number === undefined || Number(number) > 16_383) return undefined;
      const [name, said = ''] = rest!.trim().split(/:\s+/, 2) as [string, string?];
      const values = said.split(';').flatMap((v) => {
        const [, value, called] = /^(\d+)\s(.+)$/s.exec(v.trim()) ?? [];
        return value === undefined ? [] : [{ value: Number(value), name: called!.trim() }];
      });
      return {
        kind: kind as Controller['kind'],
        number: Number(number),
        name: name.trim(),
        values,
      };
    },
    'a number and a name, such as “1 Vibrato” or “NRPN 300 Air: 0 none; 64 half”.',
  );
export const controllersText = (controllers: readonly Controller[]): string =>
  controllers
    .map(({ kind, number, name, values }) => {
      const said = values.map((v) => `${v.value} ${v.name}`).join('; ');
      return `${kind === '7-bit' ? '' : `${kind} `}${number} ${name}${said ? `: ${said}` : ''}`;
    })
    .join('\n');
