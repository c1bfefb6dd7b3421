import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent } from '#core/smf/events.ts';
import { writeSmf } from '#core/smf/write.ts';
import { problemOf } from '../api/client.ts';
import { theDesk } from '../desk/the-desk.ts';
import { heardBank } from './listen.ts';
import { madeSynth, theSynth } from './synth.ts';
import { sayWrong } from '../messages/messages.ts';

/** How long keys are held, in beats of half a second, and how hard they are struck. */
const held = 3;
const ppq = 480;
const velocity = 88;

let asked = 0;
let sounds = false;

/** Sounds keys together beside the song, as a program (1–128) plays them; what was heard so before ends. */
export async function hearKeys(keys: readonly number[], program = 1): Promise<void> {
  const mine = ++asked;
  try {
    const bytes = fileOf(keys, program);
    const synth = await theSynth();
    const [song] = await Promise.all([
      theDesk().playedFile(bytes, 1),
      synth.awake(),
      synth.use(heardBank()),
    ]);
    if (song.needs) await synth.ready(song.needs);
    if (mine !== asked) return;
    sounds = true;
    synth.post({
      kind: 'clip',
      clip: {
        song,
        program: undefined,
        drums: false,
        seconds: held / 2,
        loops: false,
        rate: 1,
        waits: false,
      },
    });
  } catch (error) {
    if (mine !== asked) return;
    const problem = problemOf(error);
    sayWrong(problem.message, { about: 'clip', description: problem.remedy });
  }
}

export function hushKeys(): void {
  asked++;
  if (!sounds) return;
  sounds = false;
  void madeSynth()
    ?.then(({ post }) => post({ kind: 'clip', clip: undefined }))
    .catch(() => undefined);
}

const fileOf = (keys: readonly number[], program: number): Uint8Array =>
  writeSmf({
    format: 0,
    division: { kind: 'ppq', ticksPerQuarter: ppq },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    tracks: [
      {
        events: eventsFrom([
          channelEvent(0, 0xc0, program - 1),
          ...keys.map((key) => channelEvent(0, 0x90, key, velocity)),
          ...keys.map((key) => channelEvent(held * ppq, 0x80, key, 64)),
        ]),
      },
    ],
  });
