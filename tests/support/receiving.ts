import type { Limits } from '#core/handoff/receiver/receiver.ts';
import { readIndependently, type PlainFile } from './independent.ts';

/**
 * A receiver of the tests, written from its limits alone, over files as the independent reader sees them. It
 * shares nothing with the product but the description of the limits.
 */

/** An event: where, what kind by the names of the forecast, and what it says. */
export interface Event {
  readonly track: number;
  readonly tick: number;
  readonly kind: string;
  readonly says: string;
  readonly channel?: number;
}

const metaKind: Readonly<Record<string, string>> = {
  '51': 'tempo',
  '58': 'meters',
  '59': 'keys',
  '06': 'markers',
  '07': 'markers',
  '01': 'texts',
  '05': 'lyrics',
  '54': 'timecode',
  '02': 'copyright',
  '7f': 'specific',
  '20': 'ports',
  '21': 'ports',
  '03': 'trackNames',
  '04': 'instrumentNames',
  '08': 'instrumentNames',
  '09': 'instrumentNames',
};
const controllerKind: Readonly<Record<number, string>> = {
  0: 'banks',
  32: 'banks',
  7: 'volume',
  39: 'volume',
  10: 'pan',
  42: 'pan',
  91: 'reverb',
  93: 'chorus',
};

/** Every event but note-offs and ends of tracks. */
export function eventsIn(file: PlainFile): Event[] {
  return file.tracks.flatMap((lines, track) =>
    lines.flatMap((line): Event[] => {
      const [tickText, ...rest] = line.split(' ');
      const tick = Number(tickText);
      const [head] = rest;
      const says = rest.join(' ');
      if (/^ff/.test(head!)) {
        const type = head!.slice(2);
        return type === '2f' ? [] : [{ track, tick, says, kind: metaKind[type] ?? 'other' }];
      }
      if (/^f[07]/.test(head!)) return [{ track, tick, says, kind: 'exclusive' }];
      const status = Number.parseInt(head!.slice(0, 2), 16);
      const [one, two] = [2, 4].map((at) => Number.parseInt(head!.slice(at, at + 2), 16));
      const at = { track, tick, channel: status & 15, says };
      switch (status >> 4) {
        case 9:
          return two === 0 ? [] : [{ ...at, kind: 'notes' }];
        case 0xa:
        case 0xd:
          return [{ ...at, kind: 'pressure' }];
        case 0xb:
          return [{ ...at, kind: controllerKind[one!] ?? 'controllers' }];
        case 0xc:
          return [{ ...at, kind: 'programs' }];
        case 0xe:
          return [{ ...at, kind: 'bend' }];
        default:
          return [];
      }
    }),
  );
}

const controllerOf = ({ says }: Event): number => Number.parseInt(says.slice(2, 4), 16);
const typeOf = ({ says }: Event): string => says.slice(2, 4);

function takesNumber({ controllers, controllerList }: Limits, number: number): boolean {
  switch (controllers) {
    case 'all':
      return true;
    case 'none':
      return false;
    case 'only':
      return controllerList.includes(number);
    case 'all but':
      return !controllerList.includes(number);
  }
}

const flags: Readonly<Record<string, keyof Limits>> = {
  meters: 'meters',
  keys: 'keys',
  lyrics: 'lyrics',
  copyright: 'words',
  timecode: 'timecode',
  bend: 'bend',
  pressure: 'pressure',
  exclusive: 'exclusive',
  specific: 'specific',
  ports: 'ports',
  trackNames: 'trackNames',
  instrumentNames: 'instrumentNames',
  notes: 'notes',
};

/** Whether a receiver takes an event at all, by what it is; not by what stands around it. */
export function takesKind(event: Event, limits: Limits): boolean {
  const flag = flags[event.kind];
  if (flag && limits[flag] === false) return false;
  switch (event.kind) {
    case 'tempo':
      return limits.tempo !== 'none';
    case 'markers':
      return limits.marks.includes(typeOf(event) === '06' ? 'markers' : 'cue points');
    case 'texts':
      return limits.words || limits.marks.includes('texts');
    case 'programs':
      return limits.programs !== 'none';
    case 'banks':
      return limits.programs === 'any' || limits.programs === 'a list';
    case 'volume':
    case 'pan':
    case 'reverb':
    case 'chorus':
    case 'controllers':
      return controllerOf(event) >= 120 || takesNumber(limits, controllerOf(event));
    default:
      return true;
  }
}

/** Whether a file is opened there. */
export const opens = (
  { format, division }: PlainFile,
  { formats, resolutions, frames }: Limits,
  karaoke: boolean,
): boolean =>
  formats.some((f) => (f === 'karaoke' ? karaoke && format === 1 : f === format && !karaoke)) &&
  (division > 0 ? resolutions.length === 0 || resolutions.includes(division) : frames);

const textOf = ({ says }: Event): number[] =>
  (says.split(' ')[1] ?? '').match(/../g)?.map((b) => Number.parseInt(b, 16)) ?? [];

/** In what a file breaks the limits of a receiver: what it would not take of it. */
export function breaches(
  bytes: Uint8Array,
  name: string,
  limits: Limits,
  karaoke = false,
): string[] {
  const file = readIndependently(bytes);
  const all = eventsIn(file);
  const found: string[] = [];
  const say = (what: string): void => void found.push(`${name}: ${what}`);
  if (!opens(file, limits, karaoke)) say(`format ${file.format}, ${file.division} ticks`);
  if (limits.finest !== null && file.division > limits.finest) say(`${file.division} ticks`);
  if (limits.tracks !== null && file.tracks.length > limits.tracks)
    say(`${file.tracks.length} tracks`);
  for (const event of all) if (!takesKind(event, limits)) say(`${event.kind} ${event.says}`);
  if (all.some((e) => (e.channel ?? 0) >= limits.channels)) say('a channel too high');
  const tempos = all.filter((e) => e.kind === 'tempo');
  if (limits.tempo === 'one' && tempos.length > 1) say(`${tempos.length} tempos`);
  const names = all.filter((e) => ['trackNames', 'instrumentNames'].includes(e.kind));
  const marks = all.filter((e) => e.kind === 'markers');
  for (const [list, most] of [
    [names, limits.nameLetters],
    [marks, limits.markLetters],
  ] as const)
    for (const event of list) {
      const letters = Array.from(Buffer.from(textOf(event)).toString('utf8')).length;
      if (most !== null && limits.letters !== 'Shift-JIS' && letters > most)
        say(`${letters} letters`);
    }
  for (const event of [
    ...names,
    ...marks,
    ...all.filter((e) => ['texts', 'lyrics', 'copyright'].includes(e.kind)),
  ]) {
    const codes = textOf(event);
    if (limits.letters === 'ASCII' && codes.some((b) => b > 127)) say(`letters ${event.says}`);
    if (limits.letters === 'UTF-8' && Buffer.from(codes).toString('utf8').includes('\ufffd'))
      say(`letters ${event.says}`);
  }
  const [, stem, ending] = /^(.*)(\.[^.]*)$/.exec(name)!;
  if (ending!.toLowerCase() !== limits.ending.toLowerCase()) say('ending');
  if (limits.fileNames === '8.3' && !/^[A-Z0-9_]{1,8}$/.test(stem!)) say('name');
  if (limits.fileNames === '16' && !/^[\u0020-\u007e]{1,16}$/.test(stem!)) say('name');
  return found;
}
