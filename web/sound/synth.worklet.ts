import { BasicSoundBank, SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import { Player, type Instrument } from '#core/playing/player.ts';
import { tempoMap } from '#core/timing/tempo-map.ts';
import type { FromSynth, ToSynth } from './messages.ts';

/** What the scope of an AudioWorklet has; the compiler knows the page's only. */
declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

/** Samples that are rendered between two looks for events: none is later than 1.5 ms. */
const grid = 64;
/** Sound goes on for this long after the last event. */
const tail = 2;
const reportEvery = 0.04;

/** The synthesizer, and the player that tells it what to play, in the thread that makes the sound. */
class Synth extends AudioWorkletProcessor {
  private readonly synth = new SpessaSynthProcessor(sampleRate, { eventsEnabled: false });
  private player: Player | undefined;
  private playing = false;
  private seconds = 0;
  private reported = -1;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ToSynth>) => void this.take(data);
  }

  private post(message: FromSynth): void {
    this.port.postMessage(message);
  }

  private async take(message: ToSynth): Promise<void> {
    switch (message.kind) {
      case 'sounds':
        try {
          // Until the decoder is there every compressed sample is silence.
          await BasicSoundBank.isSF3DecoderReady;
          await this.synth.processorInitialized;
          this.synth.soundBankManager.addSoundBank(
            SoundBankLoader.fromArrayBuffer(message.bytes),
            'main',
          );
          this.post({ kind: 'ready' });
        } catch (error) {
          this.post({
            kind: 'failed',
            why: error instanceof Error ? error.message : String(error),
          });
        }
        break;
      case 'song': {
        const { tracks, tempos, division } = message.song;
        this.player = new Player(tracks, tempoMap(tempos, division), instrumentOf(this.synth));
        if (this.playing) this.player.seek(this.seconds);
        break;
      }
      case 'play':
        this.seconds = message.seconds;
        this.player?.seek(message.seconds);
        this.playing = this.player !== undefined;
        this.reported = -1;
        break;
      case 'pause':
        this.playing = false;
        this.synth.stopAllChannels(true);
    }
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0]!;
    if (!left || !right) return true;
    for (let at = 0; at < left.length; at += grid) {
      if (this.playing) {
        this.player!.advance(this.seconds + grid / sampleRate);
        this.seconds += grid / sampleRate;
      }
      this.synth.process(left, right, at, Math.min(grid, left.length - at));
    }
    if (this.playing) this.report();
    return true;
  }

  private report(): void {
    if (this.seconds > this.player!.end + tail) {
      this.playing = false;
      this.post({ kind: 'ended' });
    } else if (this.seconds - this.reported >= reportEvery || this.seconds < this.reported) {
      this.reported = this.seconds;
      this.post({ kind: 'at', seconds: this.seconds });
    }
  }
}

/** Sixteen channels of the synthesizer for each port. */
function instrumentOf(synth: SpessaSynthProcessor): Instrument {
  const offset = (port: number): number => {
    while (synth.midiChannels.length < (port + 1) * 16) {
      synth.createMIDIChannel();
      if (synth.midiChannels.length % 16 === 10)
        synth.midiChannels[synth.midiChannels.length - 1]!.setDrums(true);
    }
    return port * 16;
  };
  return {
    message: (port, status, data1, data2) =>
      synth.processMessage([status, data1, data2], offset(port)),
    systemExclusive: (port, bytes) => synth.processMessage([0xf0, ...bytes], offset(port)),
    reset() {
      synth.stopAllChannels(true);
      synth.reset();
    },
  };
}

registerProcessor('satchel-synth', Synth);
