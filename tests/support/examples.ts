import { operations } from '#core/operations/index.ts';
import type { StepRequest } from '#core/operations/run.ts';
import { sourceKey, type Sources } from '#core/operations/sources.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import { encodeText } from '#core/smf/text.ts';
import { writeSmf } from '#core/smf/write.ts';
import type { Song } from '#core/song/song.ts';
import type { StoredSource } from '#core/work/sources.ts';
import { note, songOf } from './songs.ts';

/** Every example of every operation as a step, with a name for a test. */
export const exampleSteps: readonly StepRequest[] = operations.flatMap((o) =>
  o.examples.map((e): StepRequest => ({
    operation: o.id,
    settings: e.settings,
    ...(e.scope ? { scope: e.scope } : {}),
  })),
);
export const namedSteps = (steps: readonly StepRequest[] = exampleSteps): [string, StepRequest][] =>
  steps.map((s) => [`${s.operation} ${JSON.stringify(s.settings)}`, s]);

/**
 * What examples take from outside: at 480 PPQ and 90 BPM, in 3/4, a map, brass on channel 1 and a kit on
 * 10, from bar 1 on.
 */
const brass = ((): Song => {
  const [bar, quarter] = [1440, 480];
  const named = (name: string): EventValue => metaEvent(0, meta.trackName, encodeText(name));
  const map = [
    named('Map'),
    metaEvent(0, meta.tempo, Uint8Array.of(0x0a, 0x2c, 0x2b)),
    metaEvent(0, meta.timeSignature, Uint8Array.of(3, 2, 24, 8)),
    metaEvent(bar, meta.marker, encodeText('Entry')),
    metaEvent(4 * bar, meta.endOfTrack),
  ];
  const horns = [
    named('Brass'),
    channelEvent(0, 0xc0, 61),
    ...[60, 63, 67].flatMap((key, n) => note(n * quarter + 7 * n, quarter - 1, key, 70 + 9 * n)),
    metaEvent(4 * bar, meta.endOfTrack),
  ];
  const kit = [
    named('Kit'),
    ...[0, 1, 2, 3].flatMap((n) => note(n * bar, 100, 36, 101 - n, 9)),
    metaEvent(4 * bar, meta.endOfTrack),
  ];
  return {
    ...songOf(map, horns, kit),
    title: 'Brass',
    division: { kind: 'ppq', ticksPerQuarter: quarter },
  };
})();
const theExample = { original: '0'.repeat(64), part: 1 };
export const exampleSource: Song = brass;
export const exampleSources: Sources = new Map([[sourceKey(theExample), brass]]);
export const storedExample: StoredSource = {
  name: theExample,
  stored: { bytes: writeSmf({ ...brass, format: 1 }), fileName: 'Brass.mid' },
};
