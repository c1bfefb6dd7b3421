import type { SpessaSynthProcessor } from 'spessasynth_core';
import { Player } from '#core/playing/player.ts';
import { PortInstrument } from '#core/playing/port-instrument.ts';
import { Transport } from '#core/playing/transport.ts';
import { withProgram } from '#core/playing/with-program.ts';
import { tempoMap } from '#core/timing/tempo-map.ts';
import type { Clip } from './messages.ts';

/**
 * A clip that sounds beside the song, on sixteen channels of its own: nothing that the song was told changes it,
 * and it changes nothing of the song.
 */
export class Beside {
  private readonly device: PortInstrument;
  private readonly sampleRate: number;
  private playing:
    { readonly transport: Transport; readonly clip: Clip; begun: boolean } | undefined;

  /** `offset`: the first of its channels. */
  constructor(synth: SpessaSynthProcessor, offset: number, sampleRate: number) {
    this.sampleRate = sampleRate;
    this.device = new PortInstrument((bytes) => synth.processMessage([...bytes], offset));
  }

  play(clip: Clip): void {
    this.stop();
    const { song, program, drums, seconds, loops, rate } = clip;
    const to = program === undefined ? this.device : withProgram(this.device, { program, drums });
    const player = new Player(song.tracks, tempoMap(song.tempos, song.division), to);
    const transport = new Transport(player, this.sampleRate, [], () => undefined);
    transport.set({
      rate,
      loop: loops ? { from: 0, to: seconds } : undefined,
      stop: loops ? undefined : Math.max(seconds, player.end),
      metronome: false,
    });
    this.playing = { transport, clip, begun: false };
  }

  /** Everything it sounds ends at once. */
  stop(): void {
    if (this.playing?.begun) this.playing.transport.finish();
    this.device.panic();
    this.playing = undefined;
  }

  /** The channels were reset under it: it says again what is in force where it is. */
  again(): void {
    if (this.playing?.begun) this.playing.transport.begin(this.playing.transport.seconds);
  }

  /**
   * Says what is due within so many samples. `bar`: whether the song begins a bar with them, or does not play.
   * Gives whether it is over.
   */
  advance(samples: number, bar: boolean): boolean {
    const now = this.playing;
    if (!now) return false;
    if (!now.begun) {
      if (!bar && now.clip.waits) return false;
      now.begun = true;
      now.transport.begin(0);
    }
    for (let done = 0; done < samples && !now.transport.over;)
      done += now.transport.next(samples - done);
    if (!now.transport.over) return false;
    now.transport.finish();
    // A pedal that is still down would hold what sounds for ever.
    this.device.release();
    this.playing = undefined;
    return true;
  }
}
