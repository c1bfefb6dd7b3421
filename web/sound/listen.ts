import type { SongView } from '#contracts/songs.ts';
import { toast } from 'sonner';
import { problemOf, problemFrom } from '../api/client.ts';
import { urlOf } from '#contracts/addresses.ts';
import { beatsOf } from '#core/playing/beats.ts';
import { asWritten, type Beat, type Ways } from '#core/playing/transport.ts';
import type { Maps } from '#core/song/maps.ts';
import { playedTracks } from '../desk/the-desk.ts';
import { usePlaying } from '../state/playing.ts';
import type { FromSynth, PlayedSong, ToSynth } from './messages.ts';
import synthUrl from './synth.worklet.ts?worker&url';

/** The synthesizer, made when somebody first listens: the browser lets sound begin with a press only. */
interface Synth {
  readonly context: AudioContext;
  post(message: ToSynth): void;
}

let synth: Promise<Synth> | undefined;
/** What the synthesizer has the tracks of. */
let loaded = '';

async function makeSynth(): Promise<Synth> {
  const context = new AudioContext({ latencyHint: 'interactive' });
  await context.audioWorklet.addModule(synthUrl);
  const node = new AudioWorkletNode(context, 'satchel-synth', {
    numberOfInputs: 0,
    outputChannelCount: [2],
  });
  // Many loud parts together go beyond full scale.
  const limiter = new DynamicsCompressorNode(context, {
    threshold: -6,
    ratio: 12,
    attack: 0.002,
    release: 0.1,
  });
  node.connect(limiter).connect(context.destination);
  const post = (message: ToSynth, moved: Transferable[] = []): void =>
    node.port.postMessage(message, moved);
  const response = await fetch(urlOf('getSounds', {}));
  if (!response.ok) throw problemFrom(response.status, await response.text());
  const bytes = await response.arrayBuffer();
  await new Promise<void>((resolve, reject) => {
    node.port.onmessage = ({ data }: MessageEvent<FromSynth>) =>
      data.kind === 'ready'
        ? resolve()
        : data.kind === 'failed'
          ? reject(new Error(data.why))
          : undefined;
    post({ kind: 'sounds', bytes }, [bytes]);
  });
  node.port.onmessage = ({ data }: MessageEvent<FromSynth>) => {
    if (data.kind === 'at' && usePlaying.getState().state === 'playing')
      usePlaying.setState({ seconds: data.seconds });
    if (data.kind === 'ended') usePlaying.setState({ state: 'silent', seconds: 0 });
  };
  return { context, post };
}

/** Something that can be heard: a song, or what is yet to come into one. */
export interface Heard {
  /** Of what it is heard, as `usePlaying` names it. */
  readonly key: string;
  /** The same as long as its sound is. */
  readonly version: string;
  load(): Promise<PlayedSong>;
}

/** A song as it is heard. */
const heardSong = (song: SongView, { tempos, tempo }: Maps): Heard => ({
  key: song.id,
  // A long tempo map comes in two parts.
  version: `${song.id} ${song.revision} ${tempos.length}`,
  load: async () => ({
    tracks: await playedTracks(song),
    tempos,
    division: song.division,
    beats: beatsIn(song, tempo),
  }),
});

/** The beats of a song, to be counted along. */
export const beatsIn = ({ timing, division }: SongView, tempo: Maps['tempo']): Beat[] =>
  beatsOf(timing.meters, tempo, { division, endTick: timing.endTick });

/** How the song that is open is listened to, also before anybody listens. */
let told: { readonly ways: Ways; readonly silent: readonly number[] } = {
  ways: asWritten,
  silent: [],
};

export function tellWays(ways: Ways, silent: readonly number[]): void {
  told = { ways, silent };
  // Where it cannot be had, whoever wanted to listen is told.
  void synth?.then(({ post }) => post({ kind: 'ways', ...told })).catch(() => undefined);
}

async function bring(to: Synth, heard: Heard): Promise<void> {
  if (loaded === heard.version) return;
  to.post({ kind: 'song', song: await heard.load() });
  loaded = heard.version;
}

/** Plays a song from a time on, as it is listened to. */
export const listen = (
  song: SongView,
  maps: Maps,
  seconds: number,
  countIn = false,
): Promise<void> => listenTo(heardSong(song, maps), seconds, { ...told, countIn });

/** Plays anything from a time on, in the place of what is heard: nothing of the one sounds in the other. As it is written, unless it is said otherwise. */
export async function listenTo(
  heard: Heard,
  seconds: number,
  { ways, silent, countIn } = { ways: asWritten, silent: [] as readonly number[], countIn: false },
): Promise<void> {
  usePlaying.setState({ song: heard.key, state: 'loading', seconds });
  try {
    const made = await (synth ??= makeSynth());
    await Promise.all([made.context.resume(), bring(made, heard)]);
    const { state, song } = usePlaying.getState();
    if (state !== 'loading' || song !== heard.key) return;
    made.post({ kind: 'ways', ways, silent });
    made.post({ kind: 'play', seconds, countIn });
    usePlaying.setState({ state: 'playing' });
  } catch (error) {
    synth = undefined;
    usePlaying.setState({ state: 'silent' });
    const problem = problemOf(error);
    toast.error(problem.message, { description: problem.remedy });
  }
}

/** Hears something in the place of what plays under the same key, from where it is; where that is silent, from a time on. */
export async function audition(heard: Heard, seconds: number): Promise<void> {
  const { song, state } = usePlaying.getState();
  if (song === heard.key && state === 'playing' && synth) await bring(await synth, heard);
  else await listenTo(heard, seconds, { ...told, countIn: false });
}

export function hush(): void {
  if (usePlaying.getState().state === 'silent') return;
  usePlaying.setState({ state: 'silent' });
  void synth?.then(({ post }) => post({ kind: 'pause' }));
}

/** A step was taken while it plays: what is heard from now on is the song as it is now. */
export async function followSteps(song: SongView, maps: Maps): Promise<void> {
  const { song: heard, state } = usePlaying.getState();
  if (heard === song.id && state === 'playing' && synth)
    await bring(await synth, heardSong(song, maps));
}
