import { describe, expect, it } from 'vitest';
import { testPorts } from '../../tests/support/ports.ts';
import { note, songOf } from '../../tests/support/songs.ts';
import { KeptLately } from './kept-lately.ts';
import { openedOf } from './opened-tracks.ts';
import type { Blobs } from './ports.ts';
import { lackingFor, revisionOf, step } from './step.ts';

const nothing = { blobs: new Map(), known: new Map() };

function stored() {
  const blobs: Blobs = new Map();
  const { manifest } = revisionOf(
    songOf([], note(0, 60, 80, 90), note(0, 64, 80, 90)),
    blobs,
    testPorts(),
  );
  return { manifest, blobs, track: manifest.tracks[1]! };
}

describe('tracks that are opened again', () => {
  it('are the same object, and need no bytes', () => {
    const { blobs, track } = stored();
    const ports = testPorts();
    const first = openedOf(track, { ...nothing, blobs }, ports)!.track;
    expect(openedOf(structuredClone(track), nothing, ports)!.track).toBe(first);
    expect(first.events.count).toBeGreaterThan(0);
  });

  it('are others where anything that is stored of them is another, also a field that nobody knows', () => {
    const { blobs, track } = stored();
    const ports = testPorts();
    openedOf(track, { ...nothing, blobs }, ports);
    for (const other of [
      { ...track, id: 't9' },
      { ...track, parked: ['0 7'] },
      { ...track, received: !track.received },
      { ...track, later: true },
    ])
      expect(openedOf(other, nothing, ports)).toBeUndefined();
  });

  it('are opened once more when facts of them have become known', () => {
    const { blobs, track } = stored();
    const ports = testPorts();
    expect(openedOf(track, { ...nothing, blobs }, ports)!.track.facts).toBeUndefined();
    const facts = openedOf(track, { ...nothing, blobs }, testPorts())!.track.events;
    const known = new Map([[track.blob, { facts: { endTick: facts.count } as never, notes: 1 }]]);
    expect(openedOf(track, { blobs, known }, ports)!.track.facts).toEqual({
      endTick: facts.count,
    });
  });

  it('decode their events again where these were let go, and to the same', () => {
    const { blobs, track } = stored();
    const ports = { ...testPorts(), decoded: { get: () => undefined, set: () => undefined } };
    const one = openedOf(track, { ...nothing, blobs }, ports)!.track;
    const again = openedOf(track, { ...nothing, blobs }, { ...ports, opened: new Map() })!.track;
    expect(one.events).toBe(one.events);
    expect(again.events).toEqual(one.events);
  });
});

describe('a step that is given as little as may be', () => {
  const request = {
    operation: 'velocity.set',
    settings: { add: 3 },
    scope: { tracks: ['t2'] },
  };

  it('says which tracks are lacking, and is the same without those that are at hand', () => {
    const { manifest, blobs } = stored();
    const ports = testPorts();
    const beside = new Map([[manifest.headerExtra, blobs.get(manifest.headerExtra)!]]);
    const lean = { manifest, blobs: beside, known: new Map(), request };
    expect(lackingFor(lean, ports)).toEqual(manifest.tracks.map((t) => t.blob));
    expect(() => step(lean, ports)).toThrow(/missing/);
    const whole = step({ ...lean, blobs }, ports);
    expect(lackingFor(lean, ports)).toEqual([]);
    expect(step(lean, ports)).toEqual(whole);
  });

  it('opens tracks that are larger than may be kept at hand, each time anew', () => {
    const { manifest, blobs } = stored();
    const ports = { ...testPorts(), opened: new KeptLately<never>(1, () => 2) };
    const taken = step({ manifest, blobs, known: new Map(), request }, ports);
    expect(taken.ok).toBe(true);
    expect(
      lackingFor({ manifest, blobs: new Map(), known: new Map(), request }, ports).length,
    ).toBe(manifest.tracks.length);
  });
});
