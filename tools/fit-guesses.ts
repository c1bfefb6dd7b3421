// Fits what tells from the notes of a part which family plays it, to a folder of MIDI files: npx tsx
// tools/fit-guesses.ts DIR [--write]
// Prints how well it does on files that it was not fitted to; with --write the model is fitted to all of
// them and kept in core/guessing/model.ts.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { featuresOf, placed, vectorOf, type Features } from '#core/guessing/features.ts';
import { familyNames, percussionChannel } from '#core/instruments/general-midi.ts';
import { notesOf } from '#core/song/notes.ts';
import { quarterTicks } from '#core/timing/meter-map.ts';
import { songsOfFile } from '#core/work/sources.ts';

const [folder, write] = process.argv.slice(2);
const classes = familyNames.length + 1;
const drums = familyNames.length;
const folds = 6;
const [rounds, rate, shrink] = [1500, 0.7, 0.008];

interface Part {
  readonly file: string;
  readonly x: readonly number[];
  readonly is: number;
}

/** The parts of a file with what plays them: drums by their channel, the others by their only program. */
function partsIn(file: string): Part[] {
  const read = songsOfFile({
    bytes: new Uint8Array(readFileSync(path.join(folder!, file))),
    fileName: file,
  });
  if (!read.ok) return [];
  const song = read.value.songs[0]!;
  const found: { features: Features; is: number }[] = [];
  for (const { events } of song.tracks) {
    const features = featuresOf(events, quarterTicks(song.division));
    if (!features) continue;
    const { on } = notesOf(events);
    const channel = events.status[on[0]!]! & 15;
    const programs = new Set<number>();
    for (let i = 0; i < events.count; i++)
      if (events.status[i]! >> 4 === 0xc) programs.add(events.data1[i]!);
    const [program] = programs;
    if (channel === percussionChannel) found.push({ features, is: drums });
    else if (programs.size === 1 && program !== undefined)
      found.push({ features, is: program >> 3 });
  }
  const all = placed(
    found.map((f) => f.features),
    (f) => found.find((o) => o.features === f)!.is === drums,
  );
  return all.map((features, n) => ({ file, x: vectorOf(features), is: found[n]!.is }));
}

function dot(a: readonly number[], b: readonly number[]): number {
  let sum = 0;
  for (let n = 0; n < b.length; n++) sum += a[n]! * b[n]!;
  return sum;
}
function chances(weights: readonly number[][], x: readonly number[]): number[] {
  const scores = weights.map((w) => dot(w, x) + w[x.length]!);
  const most = Math.max(...scores);
  const all = scores.map((s) => Math.exp(s - most));
  const sum = all.reduce((a, b) => a + b);
  return all.map((v) => v / sum);
}

/** Multinomial logistic regression by gradient descent, its weights held small. */
function fitted(parts: readonly Part[]): number[][] {
  const width = parts[0]!.x.length;
  const weights = Array.from({ length: classes }, () => new Array<number>(width + 1).fill(0));
  for (let round = 0; round < rounds; round++) {
    const slope = weights.map((w) => w.map((v, n) => (n < width ? -shrink * v : 0)));
    for (const { x, is } of parts) {
      const p = chances(weights, x);
      for (let c = 0; c < classes; c++) {
        const off = ((c === is ? 1 : 0) - p[c]!) / parts.length;
        for (let n = 0; n < width; n++) slope[c]![n]! += off * x[n]!;
        slope[c]![width]! += off;
      }
    }
    weights.forEach((w, c) => w.forEach((_, n) => (w[n]! += rate * slope[c]![n]!)));
  }
  return weights;
}

const parts = readdirSync(folder!)
  .filter((f) => /\.midi?$/i.test(f))
  .flatMap(partsIn);
for (const { file, x } of parts)
  if (!x.every(Number.isFinite)) throw new Error(`${file}: ${x.join()}`);
const files = [...new Set(parts.map((p) => p.file))];
let [first, among, roles] = [0, 0, 0];
const kit = { right: 0, said: 0, are: 0 };
const bass = { right: 0, are: 0 };
for (let fold = 0; fold < folds; fold++) {
  const held = new Set(files.filter((_, n) => n % folds === fold));
  const weights = fitted(parts.filter((p) => !held.has(p.file)));
  for (const { x, is } of parts.filter((p) => held.has(p.file))) {
    const p = chances(weights, x);
    const order = [...p.keys()].sort((a, b) => p[b]! - p[a]!);
    if (order[0] === is) first++;
    if (order.slice(0, 3).includes(is)) among++;
    if (order[0] === drums) kit.said++;
    if (is === drums) kit.are++;
    if (is === drums && order[0] === drums) kit.right++;
    if (is === 4) bass.are++;
    if (is === 4 && order[0] === 4) bass.right++;
    roles++;
  }
}
const percent = (n: number, of: number): string => `${((100 * n) / Math.max(1, of)).toFixed(1)} %`;
console.log(
  `${parts.length} parts of ${files.length} files, each told by what was fitted to others`,
);
console.log(`family first ${percent(first, roles)}, among three ${percent(among, roles)}`);
console.log(
  `drums found ${percent(kit.right, kit.are)}, of those said ${percent(kit.right, kit.said)}; bass found ${percent(bass.right, bass.are)}`,
);
if (write === '--write') {
  const rows = fitted(parts).map((w) => `  [${w.map((v) => Number(v.toFixed(2))).join(', ')}],`);
  writeFileSync(
    path.join(import.meta.dirname, '..', 'core', 'guessing', 'model.ts'),
    `// prettier-ignore\n/** Weights of the features of \`vectorOf\` and a constant, for each family of General MIDI and for drums: fitted by tools/fit-guesses.ts. */\nexport const weights: readonly (readonly number[])[] = [\n${rows.join('\n')}\n];\n`,
  );
}
