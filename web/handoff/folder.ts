import { get, set } from 'idb-keyval';
import { fetchFile } from '../api/client.ts';

/** What the File System Access API adds to handles, and the picker, where a browser has them. */
interface Permitted extends FileSystemDirectoryHandle {
  queryPermission?(of: { mode: 'readwrite' }): Promise<PermissionState>;
  requestPermission?(of: { mode: 'readwrite' }): Promise<PermissionState>;
}
type Picker = (options: { id: string; mode: 'readwrite' }) => Promise<FileSystemDirectoryHandle>;

const picker = (): Picker | undefined =>
  (window as unknown as { showDirectoryPicker?: Picker }).showDirectoryPicker;

/** Whether this browser can save into a folder. */
export const hasFolders = (): boolean => picker() !== undefined;

const place = 'handoff-folder';

/** The folder that was chosen before, if it may still be written to; asks for that where it is asked anew. */
export async function keptFolder(): Promise<FileSystemDirectoryHandle | undefined> {
  const kept = await get<Permitted>(place).catch(() => undefined);
  if (!kept?.queryPermission) return kept;
  const may = await kept.queryPermission({ mode: 'readwrite' });
  if (may === 'granted') return kept;
  return (await kept.requestPermission?.({ mode: 'readwrite' })) === 'granted' ? kept : undefined;
}

/** The name of the folder that is remembered. */
export const keptName = async (): Promise<string | undefined> =>
  (await get<Permitted>(place).catch(() => undefined))?.name;

/** Lets somebody choose a folder, which is remembered; undefined where nothing was chosen. */
export async function chooseFolder(): Promise<FileSystemDirectoryHandle | undefined> {
  try {
    const chosen = await picker()!({ id: 'handoffs', mode: 'readwrite' });
    await set(place, chosen);
    return chosen;
  } catch (error) {
    if ((error as Error).name === 'AbortError') return undefined;
    throw error;
  }
}

/** A file that is saved: its name, and where its bytes are. */
export interface ToSave {
  readonly name: string;
  readonly address: string;
}

/**
 * Saves files into a folder. What is there is never written over: a file of that name stands beside it
 * under another. Gives the names they have.
 */
export async function saveInto(
  folder: FileSystemDirectoryHandle,
  files: readonly ToSave[],
): Promise<string[]> {
  const names: string[] = [];
  for (const { name, address } of files) {
    const bytes = await fetchFile(address);
    const free = await freeName(folder, name);
    const handle = await folder.getFileHandle(free, { create: true });
    const stream = await handle.createWritable();
    try {
      await stream.write(bytes);
      await stream.close();
    } catch (error) {
      await stream.abort().catch(() => {});
      await folder.removeEntry(free).catch(() => {});
      throw error;
    }
    names.push(free);
  }
  return names;
}

async function freeName(folder: FileSystemDirectoryHandle, name: string): Promise<string> {
  const dot = name.lastIndexOf('.');
  for (let n = 1; ; n++) {
    const own = n === 1 ? name : `${name.slice(0, dot)} (${n})${name.slice(dot)}`;
    if (!(await isThere(folder, own))) return own;
  }
}

async function isThere(folder: FileSystemDirectoryHandle, name: string): Promise<boolean> {
  try {
    await folder.getFileHandle(name);
    return true;
  } catch (error) {
    // A folder of that name is there too.
    return (error as Error).name !== 'NotFoundError';
  }
}
