import { z } from 'zod';
import { homeOf, makeParts, putPart } from '../../../edit/make-parts.ts';
import { newPartSettings, type PartNote } from '../../../edit/new-part.ts';
import { switchesMeta, switchWords } from '../../../edit/switches.ts';
import { counted, within } from '../../../edit/rewrite.ts';
import { keysOfSong } from '../../../harmony/chord-at.ts';
import { byKeySteps } from '../../../harmony/key-steps.ts';
import { keySwitchesOf } from '../../../instruments/key-switches.ts';
import { percussionChannel } from '../../../instruments/general-midi.ts';
import { notesOf } from '../../../song/notes.ts';
import type { Song, Track } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { secondsToExactTicks, tempoMap, ticksToSeconds } from '../../../timing/tempo-map.ts';
import { defineOperation } from '../../operation.ts';

const semitones = { unison: 0, fifth: 7, octave: 12, 'two octaves': 24 } as const;
const keySteps = { third: 2, sixth: 5 } as const;
const intervals = ['unison', 'third', 'fifth', 'sixth', 'octave', 'two octaves'] as const;

const settings = z.strictObject({
  interval: z.enum(intervals).default('octave').meta({
    title: 'Interval',
    description: 'Thirds and sixths are those of the key; fifths are perfect.',
  }),
  way: z.enum(['down', 'up']).default('down').meta({ title: 'Way' }),
  ...newPartSettings,
  along: z.boolean().default(true).meta({
    title: 'Controllers go along',
    description: 'To a new track: controllers, bend and pressure.',
  }),
  every: z.int().min(1).max(64).default(1).meta({
    title: 'Every n-th note',
    description:
      '1 is all; 2 begins with the first and leaves every second out. Notes that begin together count as one.',
  }),
  delay: z.number().min(0).max(2000).default(0).meta({ title: 'Later by', unit: 'ms' }),
  cents: z.int().min(-100).max(100).default(0).meta({
    title: 'Detuned by',
    unit: 'cents',
    description: 'Of a new track on a channel of its own: channel fine tuning (RPN 1).',
  }),
  switches: z.boolean().default(true).meta(switchesMeta),
});
type Settings = z.infer<typeof settings>;

export const notesDouble = defineOperation({
  id: 'notes.double',
  version: 1,
  title: 'Double a part',
  summary:
    'Plays the notes of a part once more at an interval, on a new track or on one that is there: octave, third or sixth in the key, fifth, or unison later or detuned.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings,
  apply(song, asked, scope) {
    const home = homeOf(song, asked.to);
    if (!home.ok) return home;
    return makeParts(song, scope, (of) => {
      const { part, span, name } = of;
      if (part.id === asked.to) return 'It is the track itself.';
      const doubled = doublesOf(song, part, asked, (row) => within(span, part.events, row));
      if (typeof doubled === 'string') return doubled;
      return putPart(of, {
        ...doubled,
        home: home.value,
        name: asked.name || `${name}, ${intervalWords(asked)}`,
        sound: asked,
        along: asked.along,
        cents: asked.cents,
      });
    });
  },
  describe: (asked, { changes }) => {
    const [first] = changes;
    const where = changes.length === 1 ? `on ${first!.name}` : `on ${changes.length} tracks`;
    const count = changes.reduce((sum, c) => sum + (c.counts['note'] ?? 0), 0);
    return changes.length === 0
      ? 'Doubled no notes'
      : `Doubled ${counted(count, 'note')} ${where}: ${intervalWords(asked)}`;
  },
  examples: [
    { says: 'An octave lower, on a new track', settings: {} },
    {
      says: 'A third above in the key, as a flute',
      settings: { interval: 'third', way: 'up', program: 74, name: 'Flute' },
    },
    {
      says: 'Every second note a fifth above',
      settings: { interval: 'fifth', way: 'up', every: 2 },
    },
    {
      says: 'Broader: the same a little later and higher',
      settings: { interval: 'unison', delay: 12, cents: 8 },
    },
    { says: 'Into the second track', settings: { to: 't2' }, scope: { tracks: ['t3'] } },
  ],
});

function intervalWords({ interval, way, delay, cents }: Settings): string {
  if (interval !== 'unison') return `${interval} ${way}`;
  const words = [delay > 0 && `${delay} ms later`, cents !== 0 && `${cents} cents`].filter(Boolean);
  return words.length > 0 ? `unison, ${words.join(', ')}` : 'unison';
}

/** The notes of a part as they are to sound once more; or why there are none. */
function doublesOf(
  song: Song,
  part: Track,
  { interval, way, every, delay, switches }: Settings,
  isMeant: (row: number) => boolean,
): { notes: PartNote[]; switches: number; details: (string | undefined)[] } | string {
  const { events, instrument } = part;
  const its = notesOf(events);
  const named = keySwitchesOf(instrument);
  const map = tempoMap(timingOf(song).tempos, song.division);
  const later = (tick: number): number =>
    delay === 0
      ? tick
      : Math.round(secondsToExactTicks(map, ticksToSeconds(map, tick) + delay / 1000));
  const keyAt = keysOfSong(song);
  const sign = way === 'up' ? 1 : -1;
  const target = (key: number, tick: number): number => {
    if (!(interval in keySteps)) return key + sign * semitones[interval as keyof typeof semitones];
    const { tonic, minor } = keyAt(tick);
    return byKeySteps(key, sign * keySteps[interval as keyof typeof keySteps], {
      tonic,
      mode: minor ? 'minor' : 'major',
    });
  };
  const end = events.atTick[events.count - 1]!;
  const notes: PartNote[] = [];
  let [alongSwitches, left, beyond, group, begins, drums] = [0, 0, 0, -1, -1, 0];
  for (let n = 0; n < its.count; n++) {
    const on = its.on[n]!;
    if (!isMeant(on)) continue;
    if ((events.status[on]! & 15) === percussionChannel) {
      drums++;
      continue;
    }
    const [tick, key] = [events.atTick[on]!, events.data1[on]!];
    const ends = its.off[n] === -1 ? Math.max(end, tick + 1) : events.atTick[its.off[n]!]!;
    const [from, to] = [later(tick), later(ends)];
    if (named.has(key)) {
      if (!switches) {
        left++;
        continue;
      }
      alongSwitches++;
      notes.push({ of: n, key, from, to });
      continue;
    }
    if (tick !== begins) group++;
    begins = tick;
    if (group % every !== 0) continue;
    const wanted = target(key, tick);
    if (wanted < 0 || wanted > 127) beyond++;
    else notes.push({ of: n, key: wanted, from, to });
  }
  if (notes.length === alongSwitches)
    return beyond > 0
      ? `${counted(beyond, 'note')} would leave the keyboard, and there are no others.`
      : drums > 0
        ? 'Its notes are drums.'
        : 'It has no notes there.';
  return {
    notes,
    switches: alongSwitches,
    details: [
      ...(beyond > 0 ? [`${counted(beyond, 'note')} left out beyond the keyboard`] : []),
      ...[switchWords(alongSwitches, true), switchWords(left, false)].filter(
        (w) => w !== undefined,
      ),
    ],
  };
}
