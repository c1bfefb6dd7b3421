import { urlOf } from '#contracts/addresses.ts';
import type { ClipView } from '#contracts/shelf.ts';
import { comesRound } from '#core/shelf/kind.ts';
import { tempoMap, ticksToSeconds } from '#core/timing/tempo-map.ts';
import { problemFrom, problemOf } from '../api/client.ts';
import { theDesk } from '../desk/the-desk.ts';
import { usePlaying } from '../state/playing.ts';
import { useClipHeard, useShelf } from '../state/shelf.ts';
import type { PlayedSong } from './messages.ts';
import { madeSynth, theSynth } from './synth.ts';
import { heardBank } from './listen.ts';
import { sayWrong } from '../messages/messages.ts';

/** Clips that were loaded lately, by their bytes: the last so many. */
const most = 200;
const loaded = new Map<string, Promise<PlayedSong>>();

type Held = Pick<ClipView, 'sha256' | 'part'> & { readonly file?: File };

/** What is heard of a clip. */
function load({ sha256, part, file }: Held): Promise<PlayedSong> {
  const key = `${sha256} ${part}`;
  const song = loaded.get(key) ?? played(sha256, part, file);
  loaded.delete(key);
  loaded.set(key, song);
  song.catch(() => loaded.delete(key));
  for (const [oldest] of loaded) {
    if (loaded.size <= most) break;
    loaded.delete(oldest);
  }
  return song;
}

async function played(sha256: string, part: number, file: File | undefined): Promise<PlayedSong> {
  if (file) return theDesk().playedFile(new Uint8Array(await file.arrayBuffer()), part);
  const response = await fetch(urlOf('getFile', { sha256 }));
  if (!response.ok) throw problemFrom(response.status, await response.text());
  return theDesk().playedFile(new Uint8Array(await response.arrayBuffer()), part);
}

/** Has clips at hand that are likely to be heard next. */
export const fetchClips = (clips: readonly Held[]): void =>
  clips.forEach((clip) => void load(clip).catch(() => undefined));

/** Whether a clip comes round: by its kind, unless it was turned by hand. */
export const isRound = ({ id, kind }: Pick<ClipView, 'id' | 'kind'>): boolean =>
  comesRound(kind) !== useShelf.getState().turned.has(id);

let asked = 0;

/** Hears a clip beside the song that is open, from the next bar where that plays; `songBpm` is its tempo there. */
export async function hearClip(clip: ClipView, songBpm: number | undefined): Promise<void> {
  const mine = ++asked;
  useClipHeard.setState({ clip: clip.id });
  try {
    const synth = await theSynth();
    const [song] = await Promise.all([load(clip), synth.awake(), synth.use(heardBank())]);
    if (song.needs) await synth.ready(song.needs);
    if (mine !== asked) return;
    const { tempo, kit, sound } = useShelf.getState();
    const program = clip.drums ? kit : sound;
    synth.post({
      kind: 'clip',
      clip: {
        song,
        program,
        drums: clip.drums,
        seconds: secondsOf(clip, song),
        loops: isRound(clip),
        rate: tempo === "the song's" && songBpm ? songBpm / clip.bpm : 1,
        waits: usePlaying.getState().state === 'playing',
      },
    });
  } catch (error) {
    if (mine !== asked) return;
    useClipHeard.setState({ clip: undefined });
    const problem = problemOf(error);
    sayWrong(problem.message, { about: 'clip', description: problem.remedy });
  }
}

export function hushClip(): void {
  asked++;
  if (useClipHeard.getState().clip === undefined) return;
  useClipHeard.setState({ clip: undefined });
  void madeSynth()
    ?.then(({ post }) => post({ kind: 'clip', clip: undefined }))
    .catch(() => undefined);
}

/** How long the bars of a clip last. */
function secondsOf({ bars, meter }: ClipView, { tempos, division }: PlayedSong): number {
  const [numerator = 4, denominator = 4] = meter.split('/').map(Number);
  const quarters = (bars * numerator * 4) / denominator;
  const map = tempoMap(tempos, division);
  return division.kind === 'ppq'
    ? ticksToSeconds(map, quarters * division.ticksPerQuarter)
    : quarters / 2;
}
