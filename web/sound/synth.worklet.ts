import { BasicSoundBank, SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import { Player, type Instrument } from '#core/playing/player.ts';
import { asWritten, Transport, type Ways } from '#core/playing/transport.ts';
import { tempoMap } from '#core/timing/tempo-map.ts';
import type { FromSynth, PlayedSong, ToSynth } from './messages.ts';

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
/** Wood blocks of General MIDI. */
const highClick = 76;
const lowClick = 77;

/** The synthesizer, and the player that tells it what to play, in the thread that makes the sound. */
class Synth extends AudioWorkletProcessor {
  private readonly synth = new SpessaSynthProcessor(sampleRate, { eventsEnabled: false });
  private player: Player | undefined;
  private transport: Transport | undefined;
  private ways: Ways = asWritten;
  private silent: ReadonlySet<number> = new Set();
  private playing = false;
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
        const here = this.transport?.seconds ?? 0;
        this.load(message.song);
        if (this.playing) this.transport!.begin(here);
        break;
      }
      case 'play':
        this.transport?.begin(message.seconds, message.countIn);
        this.playing = this.transport !== undefined;
        this.reported = -1;
        break;
      case 'ways':
        this.ways = message.ways;
        this.silent = new Set(message.silent);
        this.transport?.set(this.ways);
        this.player?.leaveOut(this.silent);
        break;
      case 'pause':
        this.playing = false;
        this.synth.stopAllChannels(true);
    }
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0]!;
    if (!left || !right) return true;
    for (let at = 0, n; at < left.length; at += n) {
      n = Math.min(grid, left.length - at);
      if (this.playing) n = this.transport!.next(n);
      this.synth.process(left, right, at, n);
    }
    if (this.playing) this.report();
    return true;
  }

  /** A song with its beats, played as is chosen. */
  private load({ tracks, tempos, division, beats = [] }: PlayedSong): void {
    const to = instrumentOf(this.synth);
    this.player = new Player(tracks, tempoMap(tempos, division), to);
    this.player.leaveOut(this.silent);
    // Clicks have a port of their own: nothing of the song changes how they sound.
    const port = Math.max(-1, ...this.player.ports) + 1;
    this.transport = new Transport(this.player, sampleRate, beats, (first) => {
      to.message(port, 0x99, first ? highClick : lowClick, first ? 120 : 90);
      to.message(port, 0x89, first ? highClick : lowClick, 0);
    });
    this.transport.set(this.ways);
  }

  private report(): void {
    const { seconds } = this.transport!;
    if (seconds > this.player!.end + tail) {
      this.playing = false;
      this.post({ kind: 'ended' });
    } else if (seconds - this.reported >= reportEvery || seconds < this.reported) {
      this.reported = seconds;
      this.post({ kind: 'at', seconds });
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
