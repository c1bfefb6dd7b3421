import { BasicSoundBank, SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import { Layers, type Sixteen } from '#core/playing/layers.ts';
import { MidiClock } from '#core/playing/midi-clock.ts';
import { Player } from '#core/playing/player.ts';
import { PortInstrument } from '#core/playing/port-instrument.ts';
import { portsOf } from '#core/playing/ports.ts';
import { Routes } from '#core/playing/routes.ts';
import { watched } from '#core/playing/watched.ts';
import { asWritten, Transport } from '#core/playing/transport.ts';
import { Limiter } from '#core/sounds/limiter.ts';
import { secondsToExactTicks, tempoMap, ticksToSeconds } from '#core/timing/tempo-map.ts';
import type { FromSynth, Listening, NoteHeard, Outgoing, PlayedSong, ToSynth } from './messages.ts';
import { Beside } from './beside.ts';
import { exactBend } from './exact-bend.ts';
import { Readying } from './readying.ts';

/** What the scope of an AudioWorklet has; the compiler knows the page's only. */
declare const sampleRate: number;
declare const currentTime: number;
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
  /** Many loud parts together go beyond full scale. */
  private readonly limiter = new Limiter(sampleRate);
  private readonly readying = new Readying();
  private bank: BasicSoundBank | undefined;
  private song: PlayedSong | undefined;
  private layers: Layers | undefined;
  private player: Player | undefined;
  private transport: Transport | undefined;
  private listening: Listening = { ways: asWritten, silent: [], port: undefined };
  private playing = false;
  private reported = -1;
  private watched: number | undefined;
  /** When the samples that are being made sound. */
  private now = 0;
  private notes: NoteHeard[] = [];
  private outgoing: Outgoing[] = [];
  private readonly beside = new Beside(this.synth, 0, sampleRate);
  private readonly device = new PortInstrument((bytes) =>
    this.goOut(bytes, this.player?.ahead(this.transport!.seconds) ?? 0),
  );

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ToSynth>) => void this.take(data);
  }

  private post(message: FromSynth): void {
    this.port.postMessage(message);
  }

  private async take(message: ToSynth): Promise<void> {
    this.now = currentTime;
    switch (message.kind) {
      case 'sounds':
        await this.takeSounds(message.bytes);
        break;
      case 'samples':
        for (const { sample, rate, data } of message.samples)
          this.bank?.samples[sample]?.setAudioData(data, rate);
        break;
      case 'song':
        this.load(message.song);
        break;
      case 'play':
        this.transport?.begin(message.seconds, message.countIn);
        this.playing = this.transport !== undefined;
        this.reported = -1;
        break;
      case 'ways':
        this.listen(message);
        break;
      case 'watch':
        this.watched = message.track;
        for (const { channel, key } of this.player?.soundingOf(message.track ?? -1) ?? [])
          this.notes.push({ at: this.now, channel, key, velocity: 1 });
        break;
      case 'pause':
        this.playing = false;
        this.rest();
        this.synth.stopAllChannels(true);
        break;
      case 'clip':
        if (message.clip) {
          this.readying.now(this.bank, message.clip.song.needs ?? []);
          this.beside.play(message.clip);
        } else this.beside.stop();
        break;
      case 'panic':
        this.beside.stop();
        this.device.panic();
    }
    this.flush();
  }

  private async takeSounds(bytes: ArrayBuffer): Promise<void> {
    try {
      // Until the decoder is there every compressed sample is silence.
      await BasicSoundBank.isSF3DecoderReady;
      await this.synth.processorInitialized;
      const bank = exactBend(SoundBankLoader.fromArrayBuffer(bytes));
      const here = this.transport?.seconds ?? 0;
      this.synth.soundBankManager.addSoundBank(bank, 'main');
      this.bank = bank;
      this.synth.clearCache();
      this.readying.want(this.bank, this.song?.needs ?? []);
      if (this.playing) this.transport!.begin(here);
      else this.readying.all();
      this.post({ kind: 'ready' });
    } catch (error) {
      this.post({ kind: 'failed', why: error instanceof Error ? error.message : String(error) });
    }
  }

  /** What is listened to, and how; a track that goes to another place ends where it was. */
  private listen(listening: Listening): void {
    const before = this.listening;
    this.listening = listening;
    if (JSON.stringify(before.port) !== JSON.stringify(listening.port) && this.song) {
      this.transport!.finish();
      if (!listening.port) this.device.reset();
      const here = this.transport!.seconds;
      this.assemble(this.song);
      if (this.playing) this.transport!.begin(here);
    }
    this.transport?.set(listening.ways);
    this.player?.leaveOut(new Set(listening.silent));
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0]!;
    if (!left || !right) return true;
    for (let at = 0, n; at < left.length; at += n) {
      n = Math.min(grid, left.length - at);
      this.now = currentTime + at / sampleRate;
      const bar = !this.playing || this.transport!.atBar;
      if (this.playing) n = this.transport!.next(n);
      if (this.beside.advance(n, bar)) this.post({ kind: 'clip ended' });
      this.synth.process(left, right, at, n);
    }
    this.limiter.process(left, right);
    if (this.playing) this.report();
    this.readying.next(this.playing);
    this.flush();
    return true;
  }

  /**
   * A song in the place of the one that was loaded: where that plays, this one goes on from the same tick
   * without a break.
   */
  private load(song: PlayedSong): void {
    const before = { layers: this.layers, transport: this.transport, song: this.song };
    this.song = song;
    this.assemble(song);
    this.readying.want(this.bank, song.needs ?? []);
    if (!this.playing) return this.readying.all();
    const seconds = this.placeIn(song, before.song, before.transport!.seconds);
    if (before.layers!.shape === this.layers!.shape)
      this.transport!.takeOver(before.transport!, seconds);
    else this.transport!.begin(seconds);
  }

  /** The same tick in another song. */
  private placeIn(song: PlayedSong, before: PlayedSong | undefined, seconds: number): number {
    if (!before) return seconds;
    const was = tempoMap(before.tempos, before.division);
    return ticksToSeconds(tempoMap(song.tempos, song.division), secondsToExactTicks(was, seconds));
  }

  /** The player of a song with all that it plays into. */
  private assemble({ tracks, tempos, division, beats = [] }: PlayedSong): void {
    const { ways, silent, port } = this.listening;
    const ports = portsOf(tracks);
    this.layers = new Layers(
      tracks,
      ports,
      // The first sixteen are those of clips.
      (n) => this.sixteen(n + 1),
      () => {
        this.synth.stopAllChannels(true);
        this.synth.reset();
        this.beside.again();
      },
    );
    const to = port
      ? new Routes(this.layers, this.device, { tracks, ports, sentOut: new Set(port.tracks) })
      : this.layers;
    const map = tempoMap(tempos, division);
    this.player = new Player(
      tracks,
      map,
      watched(to, (track, channel, key, velocity) => {
        if (track === this.watched) this.notes.push({ at: this.now, channel, key, velocity });
      }),
    );
    this.player.leaveOut(new Set(silent));
    // Clicks have sixteen channels of their own: nothing of the song changes how they sound.
    const clicks = this.layers;
    const own = Math.max(-1, ...ports) + 1;
    this.transport = new Transport(
      this.player,
      sampleRate,
      beats,
      (first) => {
        clicks.message(own, 0x99, first ? highClick : lowClick, first ? 120 : 90);
        clicks.message(own, 0x89, first ? highClick : lowClick, 0);
      },
      port?.clock && division.kind === 'ppq'
        ? new MidiClock(map, division.ticksPerQuarter, (bytes, ahead) => this.goOut(bytes, ahead))
        : undefined,
    );
    this.transport.set(ways);
  }

  private goOut(bytes: readonly number[], ahead: number): void {
    this.outgoing.push({ at: this.now + ahead / this.listening.ways.rate, bytes });
  }

  /** The nth sixteen channels of the synthesizer; the tenth of each plays drums. */
  private sixteen(n: number): Sixteen {
    const { synth } = this;
    while (synth.midiChannels.length < (n + 1) * 16) {
      synth.createMIDIChannel();
      if (synth.midiChannels.length % 16 === 10)
        synth.midiChannels[synth.midiChannels.length - 1]!.setDrums(true);
    }
    const offset = n * 16;
    return {
      message: (status, data1, data2) => synth.processMessage([status, data1, data2], offset),
      systemExclusive: (bytes) => synth.processMessage([0xf0, ...bytes], offset),
    };
  }

  /** Nothing goes on sounding, here or at the port, though a pedal is down. */
  private rest(): void {
    this.transport?.finish();
    if (this.listening.port) this.device.release();
  }

  private report(): void {
    const { seconds, over } = this.transport!;
    if (over || seconds > this.player!.end + tail) {
      this.playing = false;
      this.rest();
      this.synth.stopAllChannels();
      this.post({ kind: 'ended' });
    } else if (seconds - this.reported >= reportEvery || seconds < this.reported) {
      this.reported = seconds;
      this.post({ kind: 'at', seconds });
    }
  }

  /** Says what sounds and what goes out, once a block. */
  private flush(): void {
    if (this.notes.length > 0) this.post({ kind: 'notes', notes: this.notes });
    if (this.outgoing.length > 0) this.post({ kind: 'out', messages: this.outgoing });
    if (this.notes.length > 0) this.notes = [];
    if (this.outgoing.length > 0) this.outgoing = [];
  }
}

registerProcessor('satchel-synth', Synth);
