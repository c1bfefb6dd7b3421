import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { makeHandoff } from '#core/handoff/handoff.ts';
import { sameBytes } from '#core/smf/chunks.ts';
import { readSmfs } from '#core/smf/read.ts';
import { songsFromSmfs } from '#core/song/from-smf.ts';
import { salvageShare, shareText } from '../../tests/support/salvage-share.ts';
import { tellGuesses } from './guesses.ts';
import { madeFiles, manyEvents, type MadeFile } from './made.ts';
import { tryOut } from './one-song.ts';
import { Tally } from './tally.ts';

/**
 * Every file is read, looked over, and every operation's examples are taken on it. It fails where a promise
 * is broken: an untouched track that changed, an undo that would not give back the very bytes, a handoff
 * that is not proven, a sound file that does not leave as it came. Faults that steps make are counted.
 */
const [what] = process.argv.slice(2);
if (!what) {
  console.error('Usage: npm run trial -- DIR, or npm run trial -- --made');
  process.exit(2);
}

function* filesBelow(folder: string): Generator<MadeFile> {
  for (const entry of readdirSync(folder, { withFileTypes: true, recursive: true })) {
    if (!entry.isFile() || !/\.(mid|midi|smf|kar|rmi)$/i.test(entry.name)) continue;
    const place = path.join(entry.parentPath, entry.name);
    yield { name: path.relative(folder, place), bytes: new Uint8Array(readFileSync(place)) };
  }
}

// npm run trial -- DIR --guesses: only what is guessed of parts, held against what plays them.
if (process.argv.includes('--guesses')) {
  const songs = [...filesBelow(what)].flatMap(({ name, bytes }) => {
    const read = readSmfs(bytes);
    return read.ok ? songsFromSmfs(read.value, name) : [];
  });
  tellGuesses(songs, console.log);
  process.exit(0);
}

const tally = new Tally();
const sound: Uint8Array[] = [];

function tryFile({ name, bytes }: MadeFile, only?: readonly string[]): void {
  const readings = readSmfs(bytes);
  tally.files++;
  if (!readings.ok) {
    tally.refusedFiles.set(
      readings.problem.code,
      (tally.refusedFiles.get(readings.problem.code) ?? 0) + 1,
    );
    return;
  }
  const problems = readings.value.flatMap((r) => r.problems);
  if (problems.length > 0) tally.mended++;
  const songs = songsFromSmfs(readings.value, name);
  if (problems.length === 0 && songs.length === 1) {
    const [song] = songs;
    const made = makeHandoff(song!, { received: song!, asRead: song! }, {});
    if (made.ok && sameBytes(made.value.bytes, bytes)) tally.sameBytes++;
    else tally.broken(name, 'is sound, and does not leave as it came');
    if (
      bytes.length < 300_000 &&
      readings.value[0]!.smf.alienChunks.length === 0 &&
      !songs[0]!.wrapper
    )
      sound.push(bytes);
  }
  for (const song of songs) {
    try {
      tryOut(song, name, tally, only);
    } catch (error) {
      tally.broken(
        name,
        `fell over: ${error instanceof Error ? `${error.message} ${error.stack?.split('\n')[1] ?? ''}` : String(error)}`,
      );
    }
  }
}

const made = what === '--made';
for (const file of made ? madeFiles() : filesBelow(path.resolve(what))) tryFile(file);
if (made)
  tryFile({ name: 'ten million events', bytes: manyEvents(10_000_000) }, [
    'tracks.rename',
    'velocity.set',
  ]);
const broken = tally.print(console.log);

if (!made && sound.length > 0) {
  console.log('\nDamaged on purpose: notes that no damage touched and that stay at their place');
  const [all, seen] = [
    { notes: 0, kept: 0 },
    { notes: 0, kept: 0 },
  ];
  for (const [kind, share] of Object.entries(salvageShare(sound, 2, 11))) {
    console.log(
      `${kind.padEnd(26)} ${shareText(share)}; of damage that leaves a trace ${shareText(share.seen)}`,
    );
    all.notes += share.notes;
    all.kept += share.kept;
    seen.notes += share.seen.notes;
    seen.kept += share.seen.kept;
  }
  console.log(
    `${'all kinds'.padEnd(26)} ${shareText(all)}; of damage that leaves a trace ${shareText(seen)}`,
  );
}
process.exit(broken === 0 ? 0 : 1);
