// What a step on one track costs in a song of one, of 40 and of 400 such tracks, through the server; and
// what is asked after it.
import { bring, ask, withServer } from './bench-path.mjs';

const eventsATrack = 25_000;

/**
 * A sound track of 10,000 notes on sixteenths, 5,000 values of expression, on a port and channel of its
 * own; a status in each event.
 */
function trackOf(n) {
  const body = [
    0,
    0xff,
    0x21,
    1,
    n >> 4,
    0,
    0xff,
    3,
    9,
    ...Buffer.from(`viola ${String(n).padStart(3, '0')}`),
  ];
  const channel = n % 16;
  // Keys as by chance, the same in each run (numbers of Park and Miller): no part doubles another.
  let chance = n + 1;
  for (let i = 0; i < eventsATrack / 5; i++) {
    chance = (chance * 48_271) % 2_147_483_647;
    const key = 36 + (chance % 48);
    body.push(
      0,
      0xb0 | channel,
      11,
      40 + ((i * 3) % 80),
      0,
      0x90 | channel,
      key,
      1 + ((i * 11) % 120),
      100,
      0x80 | channel,
      key,
      64,
    );
    body.push(20, 0x90 | channel, key + 3, 1 + ((i * 13) % 120), 120, 0x80 | channel, key + 3, 64);
  }
  body.push(0, 0xff, 0x2f, 0);
  const head = Buffer.from([0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 0]);
  head.writeUInt32BE(body.length, 4);
  return Buffer.concat([head, Buffer.from(body)]);
}

export function fileOf(tracks) {
  const head = Buffer.from([
    0x4d,
    0x54,
    0x68,
    0x64,
    0,
    0,
    0,
    6,
    0,
    1,
    tracks >> 8,
    tracks & 255,
    1,
    0xe0,
  ]);
  return Buffer.concat([head, ...Array.from({ length: tracks }, (_, n) => trackOf(n))]);
}

const median = (values) => [...values].sort((a, b) => a - b)[values.length >> 1];
const [warmUp, measured] = [4, 15];

async function timesIn(address, tracks) {
  const { answer } = await bring(address, fileOf(tracks));
  const at = `/api/songs/${answer.songs[0].id}`;
  const scope = { tracks: [`t${Math.ceil(tracks / 2)}`] };
  const times = { step: [], 'look-over after it': [], 'song after it': [] };
  await ask(address, 'GET', `${at}/findings`);
  for (let n = 0; n < warmUp + measured; n++) {
    const took = {
      step: await ask(address, 'POST', `${at}/steps`, {
        operation: 'velocity.set',
        // Another song each time: what was looked at before is known.
        settings: { add: 1 },
        scope,
        revision: n,
      }),
      'look-over after it': await ask(address, 'GET', `${at}/findings`),
      'song after it': await ask(address, 'GET', at),
    };
    for (const [what, { ms, status }] of Object.entries(took)) {
      if (status !== 200) throw new Error(`${what}: ${status}`);
      if (n >= warmUp) times[what].push(ms);
    }
  }
  return Object.fromEntries(Object.entries(times).map(([what, all]) => [what, median(all)]));
}

/** Prints the medians and their ratio to a song of that track alone. */
export const touchedOnly = (print) =>
  withServer(async (address) => {
    const songs = [1, 40, 400];
    const times = [];
    for (const tracks of songs) times.push(await timesIn(address, tracks));
    print(
      `  one track of ${eventsATrack.toLocaleString('en')} events, in a song of ${songs.join(', ')} such tracks`,
    );
    for (const what of Object.keys(times[0])) {
      print(
        `  ${what.padEnd(22)} ${times.map((t) => `${t[what].toFixed(1)} ms`.padStart(10)).join('')}   ${times.map((t) => `${(t[what] / times[0][what]).toFixed(2)} times`.padStart(12)).join('')}`,
      );
    }
  });
