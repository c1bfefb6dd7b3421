// One at a time: what installs, builds and makes databases must not run twice at once on the same place.
import { closeSync, mkdirSync, openSync, readFileSync, rmSync, statSync, writeSync } from 'node:fs';
import path from 'node:path';
import { say } from './say.mjs';

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Whether the process that took the lock still runs: a crashed one holds nothing. */
function isHeld(file) {
  try {
    const [pid, of] = readFileSync(file, 'utf8').split('\n');
    // A copied folder brings a lock along whose holder works on the first.
    if (of !== undefined && of !== file) return false;
    // It is written a moment after it is made.
    if (!Number(pid)) return Date.now() - statSync(file).mtimeMs < 5000;
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('tools');
  } catch {
    return false;
  }
}

/** Takes a lock, waiting for another that holds it and saying so; gives how to let go. */
export async function takeLock(file, what) {
  mkdirSync(path.dirname(file), { recursive: true });
  for (let said = false; ; await wait(300)) {
    try {
      const handle = openSync(file, 'wx', 0o600);
      writeSync(handle, `${process.pid}\n${file}`);
      closeSync(handle);
      let held = true;
      const release = () => {
        if (held) rmSync(file, { force: true });
        held = false;
      };
      process.once('exit', release);
      return release;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
    }
    if (!isHeld(file)) rmSync(file, { force: true });
    else if (!said) {
      said = true;
      say(`Another ${what} is under way here; waiting for it …`);
    }
  }
}
