declare module 'midifile' {
  export default class MIDIFile {
    constructor(buffer?: ArrayBuffer);
    readonly tracks: unknown[];
    readonly header: { setTicksPerBeat(ticks: number): void; setFormat(format: number): void };
    getTrackEvents(index: number): unknown[];
    setTrackEvents(index: number, events: unknown[]): void;
    addTrack(index: number): void;
    getContent(): ArrayBuffer;
  }
}
