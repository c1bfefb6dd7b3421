import { RequestFailed } from '../api/client.ts';
import { useClipHeard } from '../state/shelf.ts';
import { usePlaying } from '../state/playing.ts';
import type { SoundNeeded } from '#core/playing/needs.ts';
import { bankToUnpack, unpacked } from './ready.ts';
import { fetchBank } from './banks.ts';
import type { FromSynth, ToSynth } from './messages.ts';
import { portAhead, sendOut } from './port.ts';
import { hearNotes } from './notes-heard.ts';
import synthUrl from './synth.worklet.ts?worker&url';
import { sayWrong } from '../messages/messages.ts';

/** A loudspeaker that is there answers within so many milliseconds. */
const patience = 8000;

/** The synthesizer, made when somebody first listens: the browser lets sound begin with a press only. */
export interface Synth {
  readonly context: AudioContext;
  post(message: ToSynth): void;
  /** Has the sounds of a bank, by its hash, or those that come along; what is there already stays. */
  use(bank: string | undefined): Promise<void>;
  /** Has sounds unpacked before they are needed, without a break in what plays. */
  ready(sounds: readonly SoundNeeded[]): Promise<void>;
  /** Resolves when sound can be heard. */
  awake(): Promise<void>;
  /** Whether a port sounds beside it. */
  beside(port: boolean): void;
}

let synth: Promise<Synth> | undefined;

export const theSynth = (): Promise<Synth> => (synth ??= makeSynth());
/** The synthesizer if anybody has listened yet. */
export const madeSynth = (): Promise<Synth> | undefined => synth;

/** It is made anew when somebody listens again. */
export function forgetSynth(): void {
  void synth?.then(({ context }) => context.close()).catch(() => undefined);
  synth = undefined;
}

async function makeSynth(): Promise<Synth> {
  const context = new AudioContext({ latencyHint: 'interactive' });
  await context.audioWorklet.addModule(synthUrl);
  const node = new AudioWorkletNode(context, 'satchel-synth', {
    numberOfInputs: 0,
    outputChannelCount: [2],
  });
  const delay = new DelayNode(context, { maxDelayTime: 1, delayTime: 0 });
  node.connect(delay).connect(context.destination);
  const post = (message: ToSynth, moved: Transferable[] = []): void =>
    node.port.postMessage(message, moved);
  const loading = loader((bytes) => post({ kind: 'sounds', bytes }, [bytes]));
  node.port.onmessage = ({ data }: MessageEvent<FromSynth>) => {
    if (data.kind === 'ready') loading.done();
    else if (data.kind === 'failed') loading.failed(data.why);
    else if (data.kind === 'clip ended') useClipHeard.setState({ clip: undefined });
    else if (data.kind === 'out') sendOut(data.messages, context);
    else if (data.kind === 'notes') hearNotes(data.notes, context, delay.delayTime.value);
    else follow(data);
  };
  node.onprocessorerror = () => {
    forgetSynth();
    usePlaying.setState({ state: 'silent' });
    sayWrong('The synthesizer has stopped', { description: 'Press Play: it is made anew.' });
  };
  return {
    context,
    post,
    use: (bank) => loading.use(bank),
    ready: async (sounds) => {
      const samples = await unpacked(sounds);
      if (samples.length > 0)
        post(
          { kind: 'samples', samples },
          samples.map((s) => s.data.buffer),
        );
    },
    awake: () => awake(context),
    beside: (port) => void (delay.delayTime.value = port ? portAhead : 0),
  };
}

function follow(data: FromSynth): void {
  if (data.kind === 'at' && usePlaying.getState().state === 'playing')
    usePlaying.setState({ seconds: data.seconds });
  if (data.kind === 'ended')
    usePlaying.setState(({ began }) => ({ state: 'silent', seconds: began }));
}

/** Brings the synthesizer its sounds, one bank after another; it holds one at a time. */
function loader(post: (bytes: ArrayBuffer) => void) {
  let has: string | undefined | null = null;
  let waiting: { resolve: () => void; reject: (error: Error) => void } | undefined;
  let last: Promise<unknown> = Promise.resolve();
  const load = async (bank: string | undefined): Promise<void> => {
    if (has === bank) return;
    try {
      const bytes = await fetchBank(bank, (loaded) => usePlaying.setState({ loaded }));
      // Its copy is made before it goes to where it is heard.
      const besides = bankToUnpack(bytes);
      await new Promise<void>((resolve, reject) => {
        waiting = { resolve, reject };
        post(bytes);
      });
      await besides;
      has = bank;
    } finally {
      usePlaying.setState({ loaded: undefined });
    }
  };
  return {
    use: (bank: string | undefined): Promise<void> => {
      const loaded = last.then(() => load(bank));
      last = loaded.catch(() => undefined);
      return loaded;
    },
    done: () => waiting?.resolve(),
    failed: (why: string) => waiting?.reject(new Error(why)),
  };
}

const noLoudspeaker = {
  code: 'no-loudspeaker',
  message: 'Nothing can be heard',
  where: {},
  expected: 'a loudspeaker that answers',
  found: `none within ${patience / 1000} seconds`,
  remedy: 'Connect a sound device, then press Play again.',
};

/** A context without a loudspeaker never runs, and does not say so. */
async function awake(context: AudioContext): Promise<void> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const tired = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new RequestFailed(0, noLoudspeaker)), patience);
  });
  try {
    await Promise.race([context.resume(), tired]);
  } finally {
    clearTimeout(timer);
  }
}
