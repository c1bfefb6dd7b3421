import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, type EventValue, type Events } from '#core/smf/events.ts';
import { runStep } from '#core/operations/run.ts';
import type { Report } from '#core/operations/operation.ts';
import type { Scope } from '#core/song/scope.ts';
import type { Song } from '#core/song/song.ts';

/** A song at 96 PPQ, where a bar of 4/4 is 384 ticks; track ids are t1, t2 … */
export function songOf(...tracks: (readonly EventValue[] | Events)[]): Song {
  return {
    title: 'x',
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    encoding: 'UTF-8',
    nextTrack: tracks.length + 1,
    tracks: tracks.map((events, i) => ({
      id: `t${i + 1}`,
      events: 'pool' in events ? events : eventsFrom(events),
    })),
  };
}

export const note = (
  tick: number,
  length: number,
  key: number,
  velocity = 80,
  channel = 0,
): EventValue[] => [
  channelEvent(tick, 0x90 | channel, key, velocity),
  channelEvent(tick + length, 0x80 | channel, key, 64),
];
export const controller = (tick: number, number: number, value: number, channel = 0): EventValue =>
  channelEvent(tick, 0xb0 | channel, number, value);

/** A step that must succeed. */
export function take(
  song: Song,
  operation: string,
  settings: object = {},
  scope: Partial<Scope> = {},
): { song: Song; report: Report; described: string } {
  const result = runStep(song, { operation, settings, scope: { tracks: 'all', ...scope } });
  if (!result.ok) throw new Error(`${result.problem.code} ${JSON.stringify(result.problem)}`);
  return result.value;
}

/** Code of the problem that a step is refused with; 'done' where it is not. */
export function refusal(
  song: Song,
  operation: string,
  settings: object = {},
  scope: Partial<Scope> = {},
): string {
  const result = runStep(song, { operation, settings, scope: { tracks: 'all', ...scope } });
  return result.ok ? 'done' : result.problem.code;
}
