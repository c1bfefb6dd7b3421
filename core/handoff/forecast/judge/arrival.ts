import { payloadOf, type Events } from '../../../smf/events.ts';
import type { Song, Track } from '../../../song/song.ts';
import { effective, tempoMap, ticksToSeconds, type TempoMap } from '../../../timing/tempo-map.ts';
import { kindOf } from '../../proof/reading/event-kind.ts';
import { pairNotes } from '../../proof/reading/pair-notes.ts';
import { readStrictly, readText } from '../../proof/reading/read-text.ts';
import { readSongMap } from '../../proof/reading/song-map.ts';
import { outlineTrack } from '../../proof/reading/track-outline.ts';
import type { Limits } from '../../receiver/receiver.ts';
import { settingOf, type Setting } from './setting-of.ts';
import { bit, lost, same, type Loss } from './outcome.ts';

/** How a file is laid out, as far as that matters to who opens it. */
export interface Opened {
  /** Tempo at its beginning, whether it holds that or not, in microseconds a quarter. */
  readonly begins: number;
  readonly format: 0 | 1 | 'karaoke';
  /** One track for all that plays. */
  readonly merged: boolean;
  readonly tracks: number;
}

/** Meta types (SMF 1.0). */
const [markerType, cueType, specificType] = [0x06, 0x07, 0x7f];
/** The tenth, from 0: drums at a General MIDI device. */
const drumChannel = 9;

/** Which keys of a part look like key switches: a guess that whoever asks for a forecast brings along. */
export type FindKeySwitches = (
  events: Events,
) => { readonly lowest: number; readonly highest: number } | undefined;

/** Whether a receiver takes a controller, by its list. */
const takesController = ({ controllers, controllerList }: Limits, number: number): boolean =>
  controllers === 'only'
    ? controllerList.includes(number)
    : controllers === 'all' || (controllers !== 'none' && !controllerList.includes(number));

/** What a receiver has of a file once it is opened there: a stand-in for it, by its limits alone. */
export interface Arrival {
  /** Whether it is opened at all. */
  readonly opened: boolean;
  /** What becomes of each row of a track; undefined where all of it is as it is in the file. */
  readonly tracks: readonly (Int32Array | undefined)[];
  /** The tempos it plays by. */
  readonly tempo: TempoMap;
}

/** Opens a file in the mind of a receiver. @param file what is in it, before it is laid out */
export function arrivalOf(
  file: Song,
  laid: Opened,
  limits: Limits,
  findKeySwitches: FindKeySwitches,
): Arrival {
  const tempos = temposTaken(file, limits);
  // Who knows no tempo is set by hand, as the slip says.
  const followed =
    limits.tempo === 'none'
      ? [{ atTick: 0, tempo: laid.begins }]
      : tempos.map((n) => readSongMap(file).tempos[n]!);
  const tempo = tempoMap(followed, file.division);
  const opened = isOpened(file, laid, limits);
  if (!opened) return { opened, tempo, tracks: file.tracks.map(() => undefined) };
  const takes = new Taking(file, limits, { tempo, tempos, findKeySwitches });
  const tracks = file.tracks.map((track, n) =>
    limits.tracks !== null && laid.tracks > limits.tracks && n >= limits.tracks
      ? new Int32Array(track.events.count).fill(lost('moreTracks', true))
      : takes.rows(track, laid.merged && n > 0),
  );
  return { opened, tempo, tracks };
}

function isOpened({ division }: Song, { format }: Opened, limits: Limits): boolean {
  if (!limits.formats.includes(format)) return false;
  if (division.kind === 'smpte') return limits.frames;
  return limits.resolutions.length === 0 || limits.resolutions.includes(division.ticksPerQuarter);
}

/** Rounding of seconds, which must not pass over a tempo. */
const aHair = 1e-6;

/** Which tempos are followed: places in the list of all. */
function temposTaken(file: Song, { tempo, temposASecond }: Limits): number[] {
  const { tempos } = readSongMap(file);
  if (tempo !== 'map') return tempos.length > 0 ? [0] : [];
  if (temposASecond === null) return tempos.map((_, n) => n);
  const map = tempoMap(effective(tempos), file.division);
  const taken: number[] = [];
  let last = -Infinity;
  for (const [n, { atTick }] of tempos.entries()) {
    const at = ticksToSeconds(map, atTick);
    if (at - last < 1 / temposASecond - aHair && at !== last) continue;
    taken.push(n);
    last = at;
  }
  return taken;
}

const kindTaken: Readonly<Partial<Record<Setting, (limits: Limits) => boolean>>> = {
  meters: (l) => l.meters,
  keys: (l) => l.keys,
  lyrics: (l) => l.lyrics,
  texts: (l) => l.words || l.marks.includes('texts'),
  copyright: (l) => l.words,
  timecode: (l) => l.timecode,
  bend: (l) => l.bend,
  pressure: (l) => l.pressure,
  exclusive: (l) => l.exclusive,
  specific: (l) => l.specific,
  ports: (l) => l.ports,
  trackNames: (l) => l.trackNames,
  instrumentNames: (l) => l.instrumentNames,
};

const texts: ReadonlySet<Setting> = new Set([
  'texts',
  'lyrics',
  'copyright',
  'trackNames',
  'instrumentNames',
]);

/** What a receiver takes of rows, one after another. */
class Taking {
  private readonly file: Song;
  private readonly limits: Limits;
  private readonly tempo: TempoMap;
  private readonly tempoTicks: ReadonlySet<number>;
  private readonly controllers: readonly boolean[];

  private readonly findKeySwitches: FindKeySwitches;

  constructor(
    file: Song,
    limits: Limits,
    {
      tempo,
      tempos,
      findKeySwitches,
    }: { tempo: TempoMap; tempos: readonly number[]; findKeySwitches: FindKeySwitches },
  ) {
    this.file = file;
    this.findKeySwitches = findKeySwitches;
    this.limits = limits;
    this.tempo = tempo;
    this.tempoTicks = new Set(tempos.map((n) => readSongMap(file).tempos[n]!.atTick));
    this.controllers = Array.from({ length: 128 }, (_, n) => takesController(limits, n));
  }

  /** @param inOthers the track is one of those that came into one track, where only the first has a name */
  rows(track: Track, inOthers: boolean): Int32Array | undefined {
    const { events } = track;
    let rows: Int32Array | undefined;
    const put = (row: number, outcome: number): void => {
      if (outcome !== same) (rows ??= new Int32Array(events.count))[row] = outcome;
    };
    const bank = new Int32Array(16).fill(-1);
    for (let i = 0; i < events.count; i++) put(i, this.row(track, i, bank, inOthers));
    this.notes(track, put);
    return rows;
  }

  private row({ events }: Track, i: number, bank: Int32Array, inOthers: boolean): number {
    const status = events.status[i]!;
    const { limits } = this;
    if (status < 0xf0) return this.channelMessage(events, i, bank);
    const kind = settingOf(events, i);
    if (kind === undefined) return same;
    if (status !== 0xff) return limits.exclusive ? same : lost('exclusive', true);
    const type = events.data1[i]!;
    if (kind === 'tempo')
      return limits.tempo !== 'none' && this.tempoTicks.has(events.atTick[i]!)
        ? same
        : lost('tempo', true);
    if (type === markerType || type === cueType) return this.mark(events, i, type);
    if (kind === 'markers' || (kind !== 'specific' && type === specificType))
      return limits.specific ? same : lost(kind, true);
    if (kindTaken[kind]?.(limits) === false) return lost(kind, true);
    if (kind === 'trackNames' && inOthers)
      return limits.instrumentNames
        ? bit.form | this.text(events, i, limits.nameLetters)
        : lost('trackNames', true);
    if (!texts.has(kind)) return same;
    const names = kind === 'trackNames' || kind === 'instrumentNames';
    return this.text(events, i, names ? limits.nameLetters : null);
  }

  private mark(events: Events, i: number, type: number): number {
    const { marks, markLetters } = this.limits;
    if (!marks.includes(type === markerType ? 'markers' : 'cue points'))
      return lost('markers', true);
    return this.text(events, i, markLetters);
  }

  /** A text as it is read there. */
  private text(events: Events, i: number, most: number | null): number {
    const { letters } = this.limits;
    const payload = payloadOf(events, i);
    const meant = readText(payload, this.file.encoding);
    const read =
      letters === 'any' || payload.every((b) => b < 0x80)
        ? meant
        : letters === 'ASCII'
          ? undefined
          : readStrictly(payload, letters);
    return (
      (read === meant ? 0 : bit.letters) |
      (most !== null && Array.from(meant).length > most ? bit.cut : 0)
    );
  }

  private channelMessage(events: Events, i: number, bank: Int32Array): number {
    const { limits } = this;
    const status = events.status[i]!;
    const channel = status & 15;
    const notes = status >> 4 === 8 || status >> 4 === 9;
    if (notes && !limits.notes) return lost('notes', true);
    if (channel >= limits.channels) return lost('highChannels', true);
    const outcome = notes ? same : this.beside(events, i, channel, bank);
    if (outcome !== same || limits.ports || outlineTrack(events).port === 0) return outcome;
    return bit.ports;
  }

  /** Messages of a channel that are no notes. */
  private beside(events: Events, i: number, channel: number, bank: Int32Array): number {
    const { limits } = this;
    const [kind, number, value] = [events.status[i]! >> 4, events.data1[i]!, events.data2[i]!];
    if (kind === 0xa || kind === 0xd) return limits.pressure ? same : lost('pressure', true);
    if (kind === 0xe) return limits.bend ? same : lost('bend', true);
    if (kind === 0xc) return this.program(channel, number, bank[channel]!);
    if (number >= 120) return same;
    if (number === 0 || number === 32) {
      const had = Math.max(0, bank[channel]!);
      bank[channel] = number === 0 ? (had & 127) | (value << 7) : (had & ~127) | value;
      if (limits.programs === 'any' || limits.programs === 'a list') return same;
      return lost('banks', true);
    }
    return this.controllers[number] ? same : lost(lossOfController(number), true);
  }

  private program(channel: number, program: number, bank: number): number {
    const { programs, programList } = this.limits;
    if (programs === 'any') return same;
    if (programs === 'none') return lost('programs', true);
    if (programs === 'General MIDI')
      return channel === drumChannel && program > 0 ? bit.kits : same;
    const known = programList.some(
      (p) => p.program === program + 1 && (p.bank === null || p.bank === Math.max(0, bank)),
    );
    return known ? same : lost('programs', true);
  }

  /** Notes that are heard otherwise, or not at all, for what they are among others. */
  private notes({ events, instrument }: Track, put: (row: number, outcome: number) => void): void {
    const { limits } = this;
    if (!limits.notes) return;
    const switches = limits.keySwitches ? undefined : this.findKeySwitches(events);
    const drums = limits.drums === 'on channel 10' && instrument?.drums === true;
    if (!switches && !drums && limits.gap === 0) return;
    const { on, off, count } = pairNotes(events);
    const ended = new Float64Array(2048).fill(-Infinity);
    for (let n = 0; n < count; n++) {
      const row = on[n]!;
      const channel = events.status[row]! & 15;
      if (channel >= limits.channels) continue;
      const key = events.data1[row]!;
      const slot = (channel << 7) | key;
      const from = ticksToSeconds(this.tempo, events.atTick[row]!);
      const tooSoon = limits.gap > 0 && (from - ended[slot]!) * 1000 < limits.gap - 0.05;
      const end = off[n] === -1 ? Infinity : ticksToSeconds(this.tempo, events.atTick[off[n]!]!);
      ended[slot] = Math.max(ended[slot]!, end);
      if (tooSoon) put(row, lost('gap', true));
      else {
        const port = limits.ports || outlineTrack(events).port === 0 ? 0 : bit.ports;
        const wrong = switches && key >= switches.lowest && key <= switches.highest;
        put(
          row,
          port | (wrong ? bit.keySwitches : 0) | (drums && channel !== drumChannel ? bit.drums : 0),
        );
      }
    }
  }
}

/** How a controller that is not there is told. */
export const lossOfController = (number: number): Loss =>
  number === 7 || number === 39
    ? 'volume'
    : number === 10 || number === 42
      ? 'pan'
      : number === 91
        ? 'reverb'
        : number === 93
          ? 'chorus'
          : number === 0 || number === 32
            ? 'banks'
            : 'controllers';

/** As what an event is told where it is not there; undefined of what is part of another, or of the file. */
export function lossOfRow(events: Events, i: number): Loss | undefined {
  const status = events.status[i]!;
  if (status < 0xf0) {
    if (status >> 4 === 9) return events.data2[i] === 0 ? undefined : 'notes';
    if (status >> 4 === 8) return undefined;
    if (status >> 4 === 0xb) return lossOfController(events.data1[i]!);
  } else if (status === 0xff) {
    const kind = kindOf(events, i);
    if (kind === 'bridge' || kind === 'end of track') return undefined;
  }
  return settingOf(events, i) ?? 'other';
}
