// How long small uploads take while a song of ten million events is looked over and its chords detected,
// against the same on a server that does nothing else.
import { ask, bring, withServer } from './bench-path.mjs';
import { fileOf } from './bench-touch.mjs';

const [heavyTracks, warmUp, uploads] = [400, 5, 40];
/** The 95th percentile of the small uploads may be so many times that of a quiet server. */
const limit = 5;

const percentile95 = (values) =>
  [...values].sort((a, b) => a - b)[Math.ceil(values.length * 0.95) - 1];

/** Milliseconds of small uploads one after another, while `goesOn` says so; each file is another. */
async function timesOf(address, goesOn = () => true) {
  const times = [];
  for (let n = 0; n < uploads && (n < 10 || goesOn()); n++) {
    const notes = Array.from({ length: 200 }, (_, i) => [0, 0x90, 40 + (i % 40), 1 + (n % 100)]);
    const body = Buffer.from([...notes.flat(), 0, 0xff, 0x2f, 0]);
    const head = Buffer.from('4d546864000000060001000101e04d54726b00000000', 'hex');
    head.writeUInt32BE(body.length, 18);
    const { ms, status } = await bring(address, Buffer.concat([head, body]));
    if (status !== 201) throw new Error(`upload: ${status}`);
    times.push(ms);
  }
  return times;
}

export const lightUnderHeavy = (print) =>
  withServer(async (address) => {
    await timesOf(address);
    const quiet = (await timesOf(address)).slice(warmUp);
    const { answer } = await bring(address, fileOf(heavyTracks));
    const at = `/api/songs/${answer.songs[0].id}`;
    let going = 3;
    const heavy = ['findings', 'chords', 'guesses'].map((what) =>
      ask(address, 'GET', `${at}/${what}`).then(() => going--),
    );
    const busy = await timesOf(address, () => going > 0);
    const left = going;
    await Promise.all(heavy);
    const [usual, loaded] = [percentile95(quiet), percentile95(busy)];
    print(
      `  ${busy.length} small uploads while ten million events are looked over, ${left} of 3 heavy tasks left at their end`,
    );
    print(
      `  95th percentile ${loaded.toFixed(0)} ms, quiet ${usual.toFixed(0)} ms: ${(loaded / usual).toFixed(2)} times (at most ${limit})`,
    );
  });
