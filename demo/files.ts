import { writeSmf } from '#core/smf/write.ts';
import {
  damagedCopy,
  drumGroove,
  instrumentCapture,
  phoneSketch,
  playersReturn,
  shreddedRamp,
} from './arrivals.ts';
import { lanternFerry } from './lantern-ferry.ts';

export interface DemoFile {
  readonly name: string;
  readonly says: string;
  readonly bytes: () => Uint8Array;
}

/** The files that the demo database is seeded with, and that the browser tests bring in. */
export const demoFiles: readonly DemoFile[] = [
  {
    name: 'The Lantern Ferry.mid',
    says: 'the whole piece, clean',
    bytes: () => writeSmf(lanternFerry()),
  },
  {
    name: 'phone sketch.mid',
    says: 'format 0, no names, one velocity, the tune doubled an octave up',
    bytes: () => writeSmf(phoneSketch()),
  },
  {
    name: 'instrument capture.mid',
    says: 'one velocity, floods of controllers, stale programs',
    bytes: () => writeSmf(instrumentCapture()),
  },
  {
    name: 'clarinet player returns.mid',
    says: 'renamed, with changes in bars 41 to 44',
    bytes: () => writeSmf(playersReturn()),
  },
  {
    name: 'squall ramp.mid',
    says: 'a tempo ramp in hundreds of steps',
    bytes: () => writeSmf(shreddedRamp()),
  },
  {
    name: 'market groove.mid',
    says: 'two bars of hand drums',
    bytes: () => writeSmf(drumGroove()),
  },
  { name: 'damaged copy.mid', says: 'a bad transfer of the whole piece', bytes: damagedCopy },
];
