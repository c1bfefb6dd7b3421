declare module 'smpte-timecode' {
  /** The address of a frame: `toString()` gives it. */
  export default function Timecode(
    frames: number,
    frameRate: number,
    dropFrame: boolean,
  ): { toString(): string };
}
