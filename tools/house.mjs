// npm run house: draws the folders of the code and which know which, from its imports, into docs/house.svg.
// With --check it only says whether that is so still.
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { root } from './setup.mjs';

/** Parts of the core and rooms of the page stand by themselves, the rest as whole. */
const roomOf = (file) => {
  const [top, next] = file.split('/');
  if (top === 'core' || (top === 'web' && next?.indexOf('.') === -1)) return `${top}/${next}`;
  return top;
};

function* sources(folder) {
  for (const entry of readdirSync(path.join(root, folder), { withFileTypes: true }).sort((a, b) =>
    a.name < b.name ? -1 : 1,
  )) {
    const file = `${folder}/${entry.name}`;
    if (entry.isDirectory()) yield* sources(file);
    else if (/(?<!\.test)\.tsx?$/.test(entry.name) && !entry.name.endsWith('.d.ts')) yield file;
  }
}

/** Which room imports which others, and how many files each has. */
function house() {
  const rooms = new Map();
  for (const folder of ['core', 'contracts', 'server', 'web', 'demo']) {
    for (const file of sources(folder)) {
      const from = roomOf(file);
      const room = rooms.get(from) ?? { files: 0, knows: new Set() };
      rooms.set(from, room);
      room.files++;
      for (const [, spec] of readFileSync(path.join(root, file), 'utf8').matchAll(
        /from '([#.][^']+)'/g,
      )) {
        const target = spec.startsWith('#')
          ? spec.slice(1)
          : path.posix.join(path.posix.dirname(file), spec);
        const to = roomOf(target);
        if (to !== from) room.knows.add(to);
      }
    }
  }
  return rooms;
}

/** How high a room stands: above all that it knows. A room that knows one which knows it stands beside it. */
function floors(rooms) {
  const floor = new Map();
  const heightOf = (name, above) => {
    if (floor.has(name)) return floor.get(name);
    if (above.has(name)) return -1;
    const below = [...(rooms.get(name)?.knows ?? [])]
      .filter((n) => rooms.has(n))
      .map((n) => heightOf(n, new Set([...above, name])));
    const height = Math.max(-1, ...below) + 1;
    floor.set(name, height);
    return height;
  };
  for (const name of [...rooms.keys()].sort()) heightOf(name, new Set());
  return floor;
}

/** What a room knows and is not known by what else it knows: the arrows that say something. */
function telling(rooms, name) {
  const { knows } = rooms.get(name);
  const reach = (from, seen) => {
    for (const next of rooms.get(from)?.knows ?? [])
      if (!seen.has(next)) reach(next, seen.add(next));
    return seen;
  };
  return [...knows].filter(
    (to) =>
      rooms.has(to) &&
      ![...knows].some(
        (other) =>
          other !== to &&
          rooms.has(other) &&
          reach(other, new Set([other])).has(to) &&
          !reach(to, new Set([to])).has(other),
      ),
  );
}

const [wide, high, gap, rise] = [134, 34, 14, 74];

function drawn() {
  const rooms = house();
  const floor = floors(rooms);
  const rows = [];
  for (const [name, n] of [...floor].sort(([a], [b]) => (a < b ? -1 : 1)))
    (rows[n] ??= []).push(name);
  const most = Math.max(...rows.map((row) => row.length));
  const [width, height] = [most * (wide + gap) + gap, rows.length * rise + gap];
  const at = new Map();
  rows.forEach((row, n) =>
    row.forEach((name, i) =>
      at.set(name, {
        x: (width - row.length * (wide + gap) + gap) / 2 + i * (wide + gap),
        y: height - (n + 1) * rise + rise - high - gap / 2,
      }),
    ),
  );
  const arrows = [...rooms.keys()].sort().flatMap((name) =>
    telling(rooms, name)
      .sort()
      .map((to) => {
        const [a, b] = [at.get(name), at.get(to)];
        const [x1, y1, x2, y2] = [a.x + wide / 2, a.y + high, b.x + wide / 2, b.y];
        return `<path d="M${x1} ${y1} C${x1} ${y1 + 30} ${x2} ${y2 - 30} ${x2} ${y2 - 3}"/>`;
      }),
  );
  const boxes = [...rooms.keys()].sort().map((name) => {
    const { x, y } = at.get(name);
    const { files } = rooms.get(name);
    return `<g><rect x="${x}" y="${y}" width="${wide}" height="${high}" rx="4"/><text x="${x + wide / 2}" y="${y + 15}">${name}</text><text class="n" x="${x + wide / 2}" y="${y + 27}">${files === 1 ? '1 file' : `${files} files`}</text></g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img" aria-label="The folders of the code; an arrow leads to what a folder knows, and what that knows in turn is left out.">
<style>rect{fill:#fbf7ef;stroke:#4b4035}text{font:600 12px sans-serif;text-anchor:middle;fill:#2b241d}.n{font:10px sans-serif;fill:#75685a}path{fill:none;stroke:#b9a78d;marker-end:url(#tip)}</style>
<defs><marker id="tip" viewBox="0 0 6 6" refX="5" refY="3" markerWidth="6" markerHeight="6" orient="auto"><path d="M0 0 6 3 0 6z" style="fill:#b9a78d;stroke:none"/></marker></defs>
<rect x="0" y="0" width="${width}" height="${height}" style="fill:#f3ece0;stroke:none"/>
${arrows.join('\n')}
${boxes.join('\n')}
</svg>
`;
}

const file = path.join(root, 'docs', 'house.svg');
const now = drawn();
if (!process.argv.includes('--check')) writeFileSync(file, now);
else if (now !== readFileSync(file, 'utf8')) {
  console.error('docs/house.svg shows the code as it was: npm run house');
  process.exit(1);
}
