const taken = /\.(mid|midi|smf|kar|rmi|zip)$/i;

/** Of a folder, what may hold music. */
export const isWorthTaking = (name: string): boolean => taken.test(name);

/**
 * The files of a drop; from folders the MIDI files and archives, however deep they lie. Files dropped by
 * themselves are taken whatever they are called.
 */
export async function filesIn(transfer: DataTransfer): Promise<File[]> {
  // Entries must be asked for before the event is over; reading them may take its time.
  const entries = [...transfer.items]
    .filter((i) => i.kind === 'file')
    .map((i) => i.webkitGetAsEntry());
  if (!entries.some((e) => e?.isDirectory)) return [...transfer.files];
  const files: File[] = [];
  for (const entry of entries) if (entry) files.push(...(await filesOf(entry, true)));
  return files;
}

async function filesOf(entry: FileSystemEntry, dropped: boolean): Promise<File[]> {
  if (entry.isFile)
    return dropped || isWorthTaking(entry.name) ? [await fileOf(entry as FileSystemFileEntry)] : [];
  const inside = await entriesOf((entry as FileSystemDirectoryEntry).createReader());
  const lists = await Promise.all(
    inside.sort((a, b) => a.name.localeCompare(b.name)).map((e) => filesOf(e, false)),
  );
  return lists.flat();
}

/** A file of a folder says its folders as one that was chosen with them does. */
async function fileOf(entry: FileSystemFileEntry): Promise<File> {
  const file = await new Promise<File>((resolve, reject) => entry.file(resolve, reject));
  const path = entry.fullPath.replace(/^\//, '');
  return path.includes('/')
    ? Object.defineProperty(file, 'webkitRelativePath', { value: path })
    : file;
}

/** A reader gives a hundred entries at a time, and none when it is done. */
async function entriesOf(reader: FileSystemDirectoryReader): Promise<FileSystemEntry[]> {
  const all: FileSystemEntry[] = [];
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (some.length === 0) return all;
    all.push(...some);
  }
}
