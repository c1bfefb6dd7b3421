import type { SongView } from '#contracts/songs.ts';
import { asWritten } from '#core/playing/transport.ts';
import { problemOf, RequestFailed } from '../api/client.ts';
import { playedOf, playedWith } from '../desk/the-desk.ts';
import type { StepRequest } from '#core/operations/run.ts';
import { usePlaying } from '../state/playing.ts';
import type { Listening, PlayedSong } from './messages.ts';
import { forgetSynth, madeSynth, theSynth, type Synth } from './synth.ts';
import { sayWrong } from '../messages/messages.ts';

/** What the synthesizer has the tracks of. */
let loaded: { readonly version: string; readonly by: Synth } | undefined;

/** Something that can be heard: a song, or what is yet to come into one. */
export interface Heard {
  /** Of what it is heard, as `usePlaying` names it. */
  readonly key: string;
  /** The same as long as its sound is. */
  readonly version: string;
  load(): Promise<PlayedSong>;
}

/** A song as it is heard, or as it would be with steps. */
export const heardSong = (song: SongView, steps: readonly StepRequest[] = []): Heard => ({
  key: song.id,
  version: `${song.id} ${song.revision}${steps.length > 0 ? ` with ${JSON.stringify(steps)}` : ''}`,
  load: () => (steps.length > 0 ? playedWith(song, steps) : playedOf(song)),
});

/** How the song that is open is listened to, also before anybody listens. */
export interface Told extends Listening {
  /** The bank that it is heard with, by its hash; undefined for the sounds that come along. */
  readonly bank: string | undefined;
}
const plain: Told = { ways: asWritten, silent: [], port: undefined, bank: undefined };
let told = plain;

/** The bank with which everything is heard now. */
export const heardBank = (): string | undefined => told.bank;

export function tellWays(how: Told): void {
  told = how;
  // Where it cannot be had, whoever wanted to listen is told.
  void madeSynth()
    ?.then(async (synth) => {
      say(synth, how);
      if (usePlaying.getState().state !== 'silent') await takeBank(synth, how.bank);
    })
    .catch(() => undefined);
}

/** Whose notes are told as they sound: the number of a track. */
let watched: number | undefined;
export function watch(track: number | undefined): void {
  watched = track;
  void madeSynth()
    ?.then(({ post }) => post({ kind: 'watch', track }))
    .catch(() => undefined);
}

function say(synth: Synth, { ways, silent, port }: Listening): void {
  synth.beside(port !== undefined);
  synth.post({ kind: 'ways', ways, silent, port });
}

/** A bank of one's own that cannot be had is said, and the sounds that come along are heard in its place. */
async function takeBank(synth: Synth, bank: string | undefined): Promise<void> {
  try {
    await synth.use(bank);
  } catch (error) {
    if (bank === undefined) throw error;
    const { message, remedy } = bankProblem(error);
    sayWrong(message, {
      about: 'bank',
      description: `${remedy} The sounds that come along are heard in its place.`,
    });
    await synth.use(undefined);
  }
}

const bankProblem = (error: unknown): { message: string; remedy: string } =>
  error instanceof RequestFailed
    ? error.problem
    : {
        message: `The sound bank cannot be used: ${error instanceof Error ? error.message : String(error)}`,
        remedy: 'Choose another one under how it is heard.',
      };

/** How often something was to be heard: what was asked for last is. */
let asked = 0;

async function bring(to: Synth, heard: Heard): Promise<void> {
  const mine = ++asked;
  if (loaded?.version === heard.version && loaded.by === to) return;
  const song = await heard.load();
  if (song.needs) await to.ready(song.needs);
  if (mine !== asked) return;
  to.post({ kind: 'song', song });
  loaded = { version: heard.version, by: to };
}

/** Plays a song from a time on, as it is listened to. */
export const listen = (song: SongView, seconds: number, countIn = false): Promise<void> =>
  listenTo(heardSong(song), seconds, told, countIn);

/** How often playing was begun: the last time counts. */
let begun = 0;

/**
 * Plays anything from a time on, in the place of what is heard: nothing of the one sounds in the other. As
 * it is written, unless it is said otherwise.
 */
export async function listenTo(
  heard: Heard,
  seconds: number,
  how: Told = { ...plain, bank: told.bank },
  countIn = false,
): Promise<void> {
  const mine = ++begun;
  usePlaying.setState({ song: heard.key, state: 'loading', seconds, began: seconds });
  try {
    const made = await theSynth();
    await Promise.all([made.awake(), takeBank(made, how.bank).then(() => bring(made, heard))]);
    // What was asked for since, or hushed, counts.
    if (mine !== begun || usePlaying.getState().state !== 'loading') return;
    say(made, how);
    made.post({ kind: 'watch', track: watched });
    made.post({ kind: 'play', seconds, countIn });
    usePlaying.setState({ state: 'playing' });
  } catch (error) {
    if (mine !== begun) return;
    forgetSynth();
    usePlaying.setState({ state: 'silent' });
    const problem = problemOf(error);
    sayWrong(problem.message, { description: problem.remedy });
  }
}

/**
 * Hears something in the place of what plays under the same key, from where it is; where that is silent,
 * from a time on.
 */
export async function audition(heard: Heard, seconds: number): Promise<void> {
  const { song, state } = usePlaying.getState();
  const made = madeSynth();
  if (song === heard.key && state === 'playing' && made) await bring(await made, heard);
  else await listenTo(heard, seconds, told);
}

export function hush(): void {
  if (usePlaying.getState().state === 'silent') return;
  usePlaying.setState({ state: 'silent' });
  void madeSynth()
    ?.then(({ post }) => post({ kind: 'pause' }))
    .catch(() => undefined);
}

/** All is silent, here and at a port, whatever sounds there. */
export function panic(): void {
  hush();
  void madeSynth()
    ?.then(({ post }) => post({ kind: 'panic' }))
    .catch(() => undefined);
}

/** A step was taken while it plays: what is heard from now on is the song as it is now. */
export async function followSteps(song: SongView): Promise<void> {
  const { song: heard, state } = usePlaying.getState();
  const made = madeSynth();
  if (heard === song.id && state === 'playing' && made) await bring(await made, heardSong(song));
}
