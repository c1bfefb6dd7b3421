import { bpmToTempo } from '#core/units/units.ts';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import { encodeText } from '#core/smf/text.ts';
import type { Smf } from '#core/smf/smf.ts';
import { barPlans, parts, playPart, type BarPlan, type PartPlan } from './parts.ts';
import { ending, lastBpm, ppq, refrain, sections, squallTopBpm, verses } from './score.ts';
import type { Note } from './theory.ts';

export const text = (atTick: number, type: number, words: string): EventValue =>
  metaEvent(atTick, type, encodeText(words));

export function tempoEvent(atTick: number, bpm: number): EventValue {
  const t = bpmToTempo(bpm);
  return metaEvent(atTick, meta.tempo, Uint8Array.of(t >> 16, t >> 8, t));
}

const meterEvent = (
  atTick: number,
  [numerator, denominator]: readonly [number, number],
): EventValue =>
  metaEvent(
    atTick,
    meta.timeSignature,
    Uint8Array.of(numerator, Math.log2(denominator), denominator === 8 ? 12 : 24, 8),
  );

export const noteEvents = (notes: readonly Note[], channel: number): EventValue[] =>
  notes.flatMap((n) => [
    channelEvent(n.atTick, 0x90 | channel, n.key, n.velocity),
    channelEvent(n.atTick + n.lengthTicks, 0x80 | channel, n.key, 64),
  ]);

/** A change of tempo in equal steps, one a bar or finer: what a file without gradual changes can say. */
function tempoSteps(
  fromTick: number,
  toTick: number,
  fromBpm: number,
  toBpm: number,
  steps: number,
): EventValue[] {
  return Array.from({ length: steps }, (_, i) =>
    tempoEvent(
      Math.round(fromTick + ((toTick - fromTick) * i) / steps),
      fromBpm + ((toBpm - fromBpm) * (i + 1)) / steps,
    ),
  );
}

/** Name, start timecode 01:00:00:00 at 25 frames a second, meters, keys, tempos and section markers. */
export function mapEvents(plans: readonly BarPlan[]): EventValue[] {
  const events: EventValue[] = [
    text(0, meta.trackName, 'The Lantern Ferry'),
    text(0, meta.copyright, 'Made for the Amber Satchel demo'),
    metaEvent(0, meta.smpteOffset, Uint8Array.of(0x21, 0, 0, 0, 0)),
    metaEvent(0, meta.keySignature, Uint8Array.of(0xff, 1)),
  ];
  for (const plan of plans.filter((p) => p.index === 0)) {
    const { section, atTick } = plan;
    if (plans[plan.bar - 2]?.section.meter.join() !== section.meter.join())
      events.push(meterEvent(atTick, section.meter));
    events.push(tempoEvent(atTick, section.bpm), text(atTick, meta.marker, section.name));
  }
  const squall = plans.filter((p) => p.section.mood === 'storm');
  const home = plans.filter((p) => p.section.mood === 'home');
  events.push(
    ...tempoSteps(squall[4]!.atTick, home[0]!.atTick, sections[5]!.bpm, squallTopBpm, 10),
  );
  events.push(...tempoSteps(home[14]!.atTick, home[18]!.atTick, sections[6]!.bpm, lastBpm, 8));
  return events;
}

function lyrics(notes: readonly Note[]): EventValue[] {
  const words = [...verses, refrain, ending].join(' ').split(' ');
  return notes
    .slice(0, words.length)
    .map((n, i) =>
      text(
        n.atTick,
        meta.lyric,
        words[i]!.endsWith('-') ? words[i]!.slice(0, -1) : `${words[i]!} `,
      ),
    );
}

/** Swells of expression over each bar in which a held part plays. */
function swells(part: PartPlan, plans: readonly BarPlan[], notes: readonly Note[]): EventValue[] {
  if (!['Violin', 'Viola', 'Cello', 'Glass Harmonica', 'Voice'].includes(part.name)) return [];
  return plans
    .filter(
      (p) =>
        ['mist', 'song', 'home'].includes(p.section.mood) &&
        notes.some(
          (n) => n.atTick < p.atTick + p.lengthTicks && n.atTick + n.lengthTicks > p.atTick,
        ),
    )
    .flatMap((p) =>
      [0, 1, 2, 3].map((q) =>
        channelEvent(
          p.atTick + (q * p.lengthTicks) / 4,
          0xb0 | part.channel,
          11,
          [78, 92, 100, 86][q]!,
        ),
      ),
    );
}

function partEvents(part: PartPlan, plans: readonly BarPlan[]): EventValue[] {
  const notes = playPart(part, plans);
  const c = part.channel;
  return [
    text(0, meta.trackName, part.name),
    channelEvent(0, 0xc0 | c, part.program),
    channelEvent(0, 0xb0 | c, 7, 100),
    channelEvent(0, 0xb0 | c, 10, part.pan),
    ...swells(part, plans, notes),
    ...(part.name === 'Voice' ? lyrics(notes) : []),
    ...noteEvents(notes, c),
  ];
}

/** Tick of the double bar. */
export const songEnd = (plans: readonly BarPlan[]): number =>
  plans.at(-1)!.atTick + plans.at(-1)!.lengthTicks;

export const endEvent = (atTick: number): EventValue => metaEvent(atTick, meta.endOfTrack);

/** The whole piece: a map track and twelve parts, format 1, 480 PPQ, 120 bars. */
export function lanternFerry(): Smf {
  const plans = barPlans();
  const end = endEvent(songEnd(plans));
  const tracks = [mapEvents(plans), ...parts.map((part) => partEvents(part, plans))].map(
    (events) => ({ events: eventsFrom([...events, end]) }),
  );
  return {
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: ppq },
    headerExtra: new Uint8Array(0),
    tracks,
    alienChunks: [],
  };
}
