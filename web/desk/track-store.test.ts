import { describe, expect, it } from 'vitest';
import { note, songOf } from '../../tests/support/songs.ts';
import { concatBytes, bodiesOf, trackHead } from '#core/smf/chunks.ts';
import { sameEvents } from '#core/smf/compare.ts';
import type { Events } from '#core/smf/events.ts';
import { inSharedMemory } from './shared-memory.ts';
import { TrackStore } from './track-store.ts';

const eventsOf = (hash: string): Events =>
  songOf(note(0, 96, hash.charCodeAt(0))).tracks[0]!.events;

function store(failing = new Set<string>()): { store: TrackStore; asked: string[][] } {
  const asked: string[][] = [];
  const fetchTracks = (hashes: readonly string[]): Promise<Events[]> => {
    asked.push([...hashes]);
    return hashes.some((h) => failing.delete(h))
      ? Promise.reject(new Error('away'))
      : Promise.resolve(hashes.map(eventsOf));
  };
  return { store: new TrackStore(fetchTracks), asked };
}

describe('the store of tracks', () => {
  it('asks once for all that is missing, and never for what it has or waits for', async () => {
    const { store: s, asked } = store();
    const [first, second] = await Promise.all([s.events(['a', 'b', 'a']), s.events(['b', 'c'])]);
    expect(asked).toEqual([['a', 'b'], ['c']]);
    expect(first[0]).toBe(first[2]);
    expect(second[0]).toBe(first[1]);
    expect(await s.events(['c', 'a'])).toEqual([second[1], first[0]]);
    expect(asked).toHaveLength(2);
  });

  it('asks again after a failure', async () => {
    const { store: s, asked } = store(new Set(['b']));
    await expect(s.events(['a', 'b'])).rejects.toThrow('away');
    expect((await s.events(['a', 'b'])).length).toBe(2);
    expect(asked).toEqual([
      ['a', 'b'],
      ['a', 'b'],
    ]);
  });
});

describe('what tracks are sent as', () => {
  it('chunks one behind the other are read as they were written, empty ones too', () => {
    const bodies = [Uint8Array.of(1, 2, 3), new Uint8Array(0), Uint8Array.of(9)];
    expect(bodiesOf(concatBytes(bodies.flatMap((b) => [trackHead(b.length), b])))).toEqual(bodies);
  });

  it('in shared memory the events are the same', () => {
    const events = eventsOf('k');
    const there = inSharedMemory(events);
    expect(there.atTick.buffer).toBeInstanceOf(SharedArrayBuffer);
    expect(sameEvents(there, events)).toBe(true);
  });
});
