import { parseMidi } from 'midi-file';

export interface IndependentMap {
  /** Tick and microseconds a quarter. */
  readonly tempos: [number, number][];
  /** Tick, numerator, denominator. */
  readonly meters: [number, number, number][];
  readonly markers: [number, string][];
  /** Latest end of track. */
  readonly end: number;
}

/** The map of a file as the independent reader (npm `midi-file`) sees it. */
export function independentMap(file: Uint8Array): IndependentMap {
  const map: {
    tempos: [number, number][];
    meters: [number, number, number][];
    markers: [number, string][];
    end: number;
  } = { tempos: [], meters: [], markers: [], end: 0 };
  for (const track of parseMidi(file).tracks) {
    let tick = 0;
    for (const e of track) {
      tick += e.deltaTime;
      if (e.type === 'setTempo') map.tempos.push([tick, e.microsecondsPerBeat]);
      if (e.type === 'timeSignature') map.meters.push([tick, e.numerator, e.denominator]);
      if (e.type === 'marker') map.markers.push([tick, e.text]);
    }
    map.end = Math.max(map.end, tick);
  }
  return map;
}
