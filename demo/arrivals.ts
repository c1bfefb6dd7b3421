import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, eventValues, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import type { Smf } from '#core/smf/smf.ts';
import { writeSmf } from '#core/smf/write.ts';
import {
  endEvent,
  lanternFerry,
  mapEvents,
  noteEvents,
  songEnd,
  tempoEvent,
  text,
} from './lantern-ferry.ts';
import { barPlans, parts, playPart } from './parts.ts';
import { ppq } from './score.ts';
import { dice } from './theory.ts';

/** The same music as it arrives in real life. Each file has the faults its sender's equipment would have given it. */

const file = (format: 0 | 1, tracks: readonly EventValue[][]): Smf => ({
  format,
  division: { kind: 'ppq', ticksPerQuarter: ppq },
  headerExtra: new Uint8Array(0),
  tracks: tracks.map((events) => ({ events: eventsFrom(events) })),
  alienChunks: [],
});

const partNamed = (name: string) => parts.find((p) => p.name === name)!;

/**
 * A sketch from a phone: format 0, nothing named, one velocity, the tune doubled an octave up on a channel
 * of its own.
 */
export function phoneSketch(): Smf {
  const plans = barPlans().slice(0, 38);
  const flat = (name: string, channel: number, transpose = 0): EventValue[] =>
    noteEvents(
      playPart(partNamed(name), plans).map((n) => ({ ...n, key: n.key + transpose, velocity: 80 })),
      channel,
    );
  return file(0, [
    [
      tempoEvent(0, 88),
      ...flat('Voice', 0),
      ...flat('Voice', 1, 12),
      ...flat('Double Bass', 2),
      ...flat('Accordion', 3),
      endEvent(songEnd(plans)),
    ],
  ]);
}

/** What an instrument recorded: one velocity, floods of controllers, programs and sends from another sound set. */
export function instrumentCapture(): Smf {
  const plans = barPlans().slice(0, 38);
  const end = songEnd(plans);
  const chance = dice(99);
  const flood = (channel: number, controller: number, every: number): EventValue[] =>
    Array.from({ length: Math.floor(end / every) }, (_, i) =>
      channelEvent(
        i * every,
        0xb0 | channel,
        controller,
        90 + Math.round(18 * Math.sin(i / 40) + chance() * 2),
      ),
    );
  const track = (name: string, number: number, extra: EventValue[]): EventValue[] => {
    const c = number - 1;
    const notes = playPart(partNamed(name), plans).map((n) => ({ ...n, velocity: 64 }));
    const stale = [0, 14, 22].flatMap((bar, i) => [
      channelEvent(plans[bar]!.atTick, 0xb0 | c, 0, 87),
      channelEvent(plans[bar]!.atTick, 0xb0 | c, 32, 64 + i),
      channelEvent(plans[bar]!.atTick, 0xc0 | c, 40 + i * 9),
    ]);
    const sends = [
      [91, 40],
      [93, 20],
      [74, 70],
      [71, 55],
    ].map(([controller, value]) => channelEvent(0, 0xb0 | c, controller!, value!));
    return [
      text(0, meta.trackName, `Track ${number}`),
      ...stale,
      ...sends,
      ...extra,
      ...noteEvents(notes, c),
      endEvent(end),
    ];
  };
  const reset: EventValue = {
    atTick: 0,
    status: 0xf0,
    data1: 0,
    data2: 0,
    payload: Uint8Array.of(0x7e, 0x7f, 0x09, 0x01, 0xf7),
  };
  const pressure = Array.from({ length: 2400 }, (_, i) =>
    channelEvent(i * 24, 0xd0, 40 + (i % 50)),
  );
  return file(1, [
    [tempoEvent(0, 88), reset, endEvent(end)],
    track('Violin', 1, [...flood(0, 11, 12), ...pressure]),
    track('Viola', 2, flood(1, 11, 12)),
    track('Cello', 3, [...flood(2, 7, 10), ...flood(2, 1, 24)]),
    track('Clarinet', 4, [...flood(3, 2, 8), channelEvent(end - 10, 0xe3, 0, 96)]),
  ]);
}

/** The clarinettist's copy back: tracks renamed, other notes in bars 41 to 44, the marimba left out. */
export function playersReturn(): Smf {
  const smf = lanternFerry();
  const plans = barPlans();
  const [from, to] = [plans[40]!.atTick, plans[44]!.atTick];
  const tracks = smf.tracks
    .filter((_, i) => parts[i - 1]?.name !== 'Marimba')
    .map((track, i) => {
      const values = eventValues(track.events).map((e) =>
        e.data1 === meta.trackName && e.status === 0xff && i > 0
          ? text(0, meta.trackName, `Inst ${i}`)
          : e,
      );
      return {
        events: eventsFrom(
          i === 2
            ? values.map((e) =>
                e.status < 0xa0 && e.atTick >= from && e.atTick < to
                  ? { ...e, data1: e.data1 + 5 }
                  : e,
              )
            : values,
        ),
      };
    });
  return { ...smf, tracks };
}

/** The squall's accelerando as another program wrote it: a new tempo every few ticks. */
export function shreddedRamp(): Smf {
  const plans = barPlans();
  const kept = mapEvents(plans).filter((e) => e.data1 !== meta.tempo);
  const squall = plans.filter((p) => p.section.mood === 'storm');
  const [from, to] = [squall[4]!.atTick, squall.at(-1)!.atTick + squall.at(-1)!.lengthTicks];
  const shreds = Array.from({ length: 560 }, (_, i) =>
    tempoEvent(Math.round(from + ((to - from) * i) / 560), 104 + (48 * i) / 560),
  );
  const cello = [
    text(0, meta.trackName, 'Cello'),
    channelEvent(0, 0xc0, 42),
    ...noteEvents(playPart(partNamed('Cello'), plans), 0),
    endEvent(songEnd(plans)),
  ];
  return file(1, [[...kept, tempoEvent(0, 104), ...shreds, endEvent(songEnd(plans))], cello]);
}

/** Two bars of hand drums to be looped: format 0, channel 10. */
export function drumGroove(): Smf {
  const plans = barPlans()
    .filter((p) => p.section.mood === 'dance')
    .slice(0, 2);
  const start = plans[0]!.atTick;
  const notes = playPart(partNamed('Hand Drums'), plans).map((n) => ({
    ...n,
    atTick: n.atTick - start,
  }));
  const meter = metaEvent(0, meta.timeSignature, Uint8Array.of(7, 3, 12, 8));
  return file(0, [
    [
      text(0, meta.trackName, 'Market groove'),
      tempoEvent(0, 138),
      meter,
      ...noteEvents(notes, 9),
      endEvent(2 * plans[0]!.lengthTicks),
    ],
  ]);
}

/** The whole piece after a bad transfer: a chunk length and some bytes wrong, the end missing. */
export function damagedCopy(): Uint8Array {
  const bytes = writeSmf(lanternFerry()).slice();
  const cut = bytes.subarray(0, bytes.length - 700);
  let track = 0;
  for (let at = 14; at + 8 < cut.length;) {
    const view = new DataView(cut.buffer, at);
    const length = view.getUint32(4);
    track++;
    if (track === 3) view.setUint32(4, length + 5000);
    if (track === 5) for (const spot of [60, 61, 900]) cut[at + 8 + spot] = 0xff;
    at += 8 + length;
  }
  return cut.slice();
}
