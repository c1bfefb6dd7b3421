import type { Instrument } from './player.ts';
import { Told } from './told.ts';

/** A device at a MIDI port, told what its tracks play in bytes as they go over the wire. */
export class PortInstrument implements Instrument {
  private readonly send: (bytes: readonly number[]) => void;
  private told = new Told();
  /** Notes that sound there, by channel and key: how many. */
  private readonly sounding = new Map<number, number>();

  constructor(send: (bytes: readonly number[]) => void) {
    this.send = send;
  }

  message(_port: number, status: number, data1: number, data2: number): void {
    const kind = status >> 4;
    this.send(kind === 0xc || kind === 0xd ? [status, data1] : [status, data1, data2]);
    if (kind > 9) return this.told.add({ port: 0, status, data1, data2 });
    const note = ((status & 15) << 7) | data1;
    const count = (this.sounding.get(note) ?? 0) + (kind === 9 && data2 > 0 ? 1 : -1);
    if (count > 0) this.sounding.set(note, count);
    else this.sounding.delete(note);
  }

  /** `bytes` as a file has them: without the first, with the last. */
  systemExclusive(_port: number, bytes: Uint8Array): void {
    this.send([0xf0, ...bytes]);
    this.told.add({ port: 0, status: 0xf0, data1: 0, data2: 0, bytes });
  }

  /** Every note off, and what was turned goes back to where a device starts from. */
  reset(): void {
    this.endNotes();
    for (const { status, data1, data2 } of this.told.differences([]).reset)
      this.message(0, status, data1, data2);
    this.told = new Told();
  }

  /** Nothing goes on sounding: every note off, every pedal up. */
  release(): void {
    this.endNotes();
    for (let channel = 0; channel < 16; channel++)
      for (const pedal of [64, 66]) this.send([0xb0 | channel, pedal, 0]);
  }

  /**
   * Whatever is heard or not: all is silent. Pedals up, all sound and all notes off on every channel, and each
   * note that is known of by itself.
   */
  panic(): void {
    this.endNotes();
    for (let channel = 0; channel < 16; channel++)
      for (const controller of [64, 120, 123]) this.send([0xb0 | channel, controller, 0]);
  }

  private endNotes(): void {
    for (const note of this.sounding.keys()) this.send([0x80 | (note >> 7), note & 127, 64]);
    this.sounding.clear();
  }
}
