import { buffer } from 'node:stream/consumers';
import { fromBuffer, type Entry, type ZipFile } from 'yauzl';

/** The files of a zip archive, by an independent reader (npm yauzl 3). */
export async function unpacked(bytes: Uint8Array): Promise<Map<string, Buffer>> {
  const files = new Map<string, Buffer>();
  const zip = await new Promise<ZipFile>((resolve, reject) =>
    fromBuffer(Buffer.from(bytes), { lazyEntries: true }, (error, z) =>
      error ? reject(error) : resolve(z),
    ),
  );
  await new Promise<void>((resolve, reject) => {
    zip.on('end', resolve).on('error', reject);
    zip.on('entry', (entry: Entry) =>
      zip.openReadStream(entry, (error, stream) => {
        if (error) return reject(error);
        buffer(stream).then((b) => {
          files.set(entry.fileName, b);
          zip.readEntry();
        }, reject);
      }),
    );
    zip.readEntry();
  });
  return files;
}
