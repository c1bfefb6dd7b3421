import { statesBendRange } from '../../../edit/bend-range.ts';
import { foreignTo } from '../../../edit/foreign-controllers.ts';
import { keySwitchesIn } from '../../../edit/key-switches.ts';
import { counted } from '../../../edit/rewrite.ts';
import { controllerName } from '../../../instruments/controllers.ts';
import { percussionChannel } from '../../../instruments/general-midi.ts';
import type { Limits } from '../../../instruments/limits.ts';
import type { Events } from '../../../smf/events.ts';
import type { TickSpan } from '../../../song/scope.ts';
import { notesOf } from '../../../song/notes.ts';

/**
 * What of a part was written for what played it before, or does not suit what plays it now: in short words,
 * with what settles it.
 */
export function writtenFor(
  events: Events,
  channel: number,
  {
    was,
    limits,
    span,
    contradicted,
  }: {
    was: number;
    limits: Limits;
    span: TickSpan;
    /** What its name says that does not play it. */
    contradicted: string | undefined;
  },
): string[] {
  const foreign = foreignTo(events);
  const toDrums = channel === percussionChannel;
  return [
    foreign &&
      `${counted(foreign.values, 'value')} of ${foreign.used.map((c) => controllerName(c).toLowerCase()).join(', ')} set for the sound before (Park lanes, or “park what was written”)`,
    statesBendRange(events, channel) && 'it states a bend range of its own (Set bend range)',
    toDrums !== (was === percussionChannel) &&
      (toDrums ? 'its keys are drums now' : 'its keys were drums: they are pitches now'),
    contradicted !== undefined && `its name says “${contradicted}” (Rename)`,
    keysWords(events, keysOn(events, channel, span), limits),
    !toDrums && chordsWords(events, channel, { limits, span }),
  ].filter((words) => typeof words === 'string');
}

function keysWords(events: Events, keys: readonly number[], limits: Limits): string | undefined {
  const switches = limits.drums ? undefined : keySwitchesIn(events);
  const range = limits.playable;
  if (switches)
    return `${counted(switches.count, 'note')} far ${switches.end === 'low' ? 'below' : 'above'} its music look like key switches of another instrument (Remove notes)`;
  if (!range) return undefined;
  const outside = keys.filter((key) => key < range[0] || key > range[1]).length;
  return outside === 0
    ? undefined
    : limits.drums
      ? `${counted(outside, 'note')} on keys that ${limits.called} has no drum for`
      : `${counted(outside, 'note')} out of the range of ${limits.called} (Transpose)`;
}

function keysOn(
  { status, data1, data2, atTick, count }: Events,
  channel: number,
  { from, to }: TickSpan,
): number[] {
  const keys: number[] = [];
  for (let i = 0; i < count; i++)
    if (status[i] === (0x90 | channel) && data2[i]! > 0 && atTick[i]! >= from && atTick[i]! < to)
      keys.push(data1[i]!);
  return keys;
}

/** More notes struck together than one player sounds. */
function chordsWords(
  events: Events,
  channel: number,
  { limits, span: { from, to } }: { limits: Limits; span: TickSpan },
): string | undefined {
  const most = limits.voices;
  if (most === undefined) return undefined;
  const together = new Map<number, number>();
  const { on, count } = notesOf(events);
  for (let n = 0; n < count; n++) {
    if ((events.status[on[n]!]! & 15) !== channel) continue;
    const tick = events.atTick[on[n]!]!;
    if (tick < from || tick >= to) continue;
    together.set(tick, (together.get(tick) ?? 0) + 1);
  }
  const chords = [...together.values()].filter((notes) => notes > most).length;
  return chords === 0
    ? undefined
    : `${counted(chords, 'chord')} of more notes than a player of ${limits.called} sounds (Split by voice)`;
}
