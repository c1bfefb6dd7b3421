// Folders and files that belong to us: where root works for an unprivileged user, nothing that somebody
// else can put there is followed.
import {
  chmodSync,
  chownSync,
  closeSync,
  constants,
  existsSync,
  fstatSync,
  lstatSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  writeSync,
} from 'node:fs';
import { randomBytes } from 'node:crypto';
import path from 'node:path';
import { stop } from './say.mjs';

/** Whether a folder is a real one that only root or `user` could have made, and that nobody else may write into. */
export function isOurs(folder, user) {
  const found = lstatSync(folder, { throwIfNoEntry: false });
  return (
    found !== undefined &&
    found.isDirectory() &&
    (found.uid === 0 || found.uid === user.uid) &&
    (found.mode & 0o022) === 0
  );
}

/** Makes a folder of `user`'s own, or takes the one that is there if it is that; stops where it is somebody else's. */
export function ownFolder(folder, user) {
  mkdirSync(path.dirname(folder), { recursive: true, mode: 0o755 });
  try {
    mkdirSync(folder, { mode: 0o700 });
  } catch (error) {
    if (error.code !== 'EEXIST') throw error;
    const found = lstatSync(folder);
    if (!found.isDirectory() || (found.uid !== 0 && found.uid !== user.uid))
      stop(
        `${folder} is not ours: it is ${found.isSymbolicLink() ? 'a link' : 'somebody else’s'}. Remove it, or name another folder in SATCHEL_DATA.`,
      );
  }
  chownSync(folder, user.uid, user.gid);
  chmodSync(folder, 0o700);
  return folder;
}

/** Writes a file anew under its name: a link that stands there is replaced, not followed. */
export function writeOwn(file, text, user) {
  const fresh = `${file}.${randomBytes(8).toString('hex')}`;
  const handle = openSync(fresh, 'wx', 0o600);
  writeSync(handle, text);
  closeSync(handle);
  if (user) chownSync(fresh, user.uid, user.gid);
  renameSync(fresh, file);
}

/** Reads a file, never through a link; undefined where there is none. */
export function readOwn(file) {
  if (!existsSync(file) && !lstatSync(file, { throwIfNoEntry: false })) return undefined;
  let handle;
  try {
    handle = openSync(file, constants.O_RDONLY | constants.O_NOFOLLOW);
  } catch (error) {
    if (error.code !== 'ELOOP') throw error;
    rmSync(file);
    return undefined;
  }
  try {
    return fstatSync(handle).isFile() ? readFileSync(handle, 'utf8') : undefined;
  } finally {
    closeSync(handle);
  }
}
