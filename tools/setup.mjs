// What a fresh machine lacks. Plain Node: this runs before any package is there.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { say, stop } from './say.mjs';

export const root = path.resolve(import.meta.dirname, '..');

const isRoot = process.getuid?.() === 0;

/** Folder of PostgreSQL's programs: Debian keeps them out of PATH. */
export function postgresPrograms() {
  const debian = '/usr/lib/postgresql';
  const versions = existsSync(debian)
    ? readdirSync(debian).sort((a, b) => Number(b) - Number(a))
    : [];
  const found = versions
    .map((v) => path.join(debian, v, 'bin'))
    .find((bin) => existsSync(path.join(bin, 'initdb')));
  if (found) return found;
  return (process.env.PATH ?? '')
    .split(':')
    .find((bin) => existsSync(path.join(bin, 'initdb')) && existsSync(path.join(bin, 'pg_ctl')));
}

export const chromium = () =>
  [process.env.SATCHEL_CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser'].find(
    (p) => p && existsSync(p),
  );

/** General MIDI sounds (MIT): without them everything works but listening. */
export const sounds = () =>
  [process.env.SATCHEL_SOUNDS, '/usr/share/sounds/sf3/FluidR3Mono_GM.sf3'].find(
    (p) => p && existsSync(p),
  );

/** Installs the Debian packages that are missing; where it may not, says which and how. */
export function ensureDebian({ browser }) {
  const missing = [];
  if (!postgresPrograms()) missing.push('postgresql');
  if (browser && !chromium()) missing.push('chromium');
  if (missing.length > 0) ensureNeeded(missing);
  if (!sounds()) trySounds();
}

const mayInstall = () => isRoot && existsSync('/usr/bin/apt-get');
const apt = (...args) =>
  spawnSync('apt-get', ['-o', 'DPkg::Lock::Timeout=300', '-q', ...args], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  }).status;

function ensureNeeded(missing) {
  const command = `apt-get install --no-install-recommends ${missing.join(' ')}`;
  if (!mayInstall())
    stop(`Missing: ${missing.join(', ')}. Install with:\n  sudo ${command}\nand start again.`);
  say(`Installing ${missing.join(' and ')} …`);
  // Our own cluster is all that is needed; the package would otherwise make one of the system's.
  mkdirSync('/etc/postgresql-common/createcluster.d', { recursive: true });
  writeFileSync(
    '/etc/postgresql-common/createcluster.d/no-main.conf',
    'create_main_cluster = false\n',
  );
  apt('update');
  if (apt('install', '-y', '--no-install-recommends', ...missing) !== 0)
    stop(`Could not install ${missing.join(', ')}. Try:\n  ${command}`);
}

/** Sounds are wanted, not needed: they are looked for once, and nothing stops without them. */
function trySounds() {
  const triedFile = path.join(root, 'node_modules', '.satchel-sounds');
  const how = 'apt-get install fluidr3mono-gm-soundfont';
  if (!mayInstall() || existsSync(triedFile))
    return say(`No sounds to play with. For them: sudo ${how}`);
  say('Installing sounds …');
  mkdirSync(path.dirname(triedFile), { recursive: true });
  writeFileSync(triedFile, '');
  apt('update');
  if (apt('install', '-y', '--no-install-recommends', 'fluidr3mono-gm-soundfont') !== 0)
    say(`Could not install sounds; everything else works. Try: ${how}`);
}

/** Installs the npm packages by the lock file, when it or Node has changed since the last time. */
export function ensurePackages() {
  const stamp = createHash('sha256')
    .update(readFileSync(path.join(root, 'package-lock.json')))
    .update(readFileSync(path.join(root, '.npmrc')))
    .update(process.version)
    .digest('hex');
  const stampFile = path.join(root, 'node_modules', '.satchel-stamp');
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return;
  say('Installing packages …');
  if (
    spawnSync('npm', ['ci', '--include=dev', '--no-audit', '--no-fund'], {
      cwd: root,
      stdio: ['ignore', 'ignore', 'inherit'],
    }).status !== 0
  )
    stop('npm ci failed; see above.');
  writeFileSync(stampFile, stamp);
}

const sources = [
  'core',
  'contracts',
  'server',
  'web',
  'demo',
  'tools',
  'package-lock.json',
  'vite.config.ts',
  'vite.server.config.ts',
  'vite.worker.config.ts',
];

function* filesBelow(place) {
  const entries = readdirSync(place, { withFileTypes: true, recursive: true });
  for (const entry of entries) if (entry.isFile()) yield path.join(entry.parentPath, entry.name);
}

/** Builds the page and the server when their sources have changed since the last time. */
export function ensureBuild() {
  const hash = createHash('sha256');
  for (const source of sources) {
    const place = path.join(root, source);
    const files = source.includes('.') ? [place] : [...filesBelow(place)].sort();
    for (const file of files)
      if (!file.endsWith('.test.ts'))
        hash.update(path.relative(root, file)).update(readFileSync(file));
  }
  const stamp = hash.digest('hex');
  const stampFile = path.join(root, 'dist', '.stamp');
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return;
  say('Building …');
  const vite = path.join(root, 'node_modules', 'vite', 'bin', 'vite.js');
  for (const args of [
    ['build'],
    ['build', '--config', 'vite.server.config.ts'],
    ['build', '--config', 'vite.worker.config.ts'],
  ]) {
    const run = spawnSync(process.execPath, [vite, ...args, '--logLevel', 'warn'], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    if (run.status !== 0) stop('The build failed; see above.');
  }
  writeFileSync(stampFile, stamp);
}
