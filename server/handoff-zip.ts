import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';

/** Files as a zip archive, each read as it is written: so much memory as the largest of them. */
export function filesZip(
  files: readonly { readonly name: string }[],
  at: Date,
  bytesOf: (n: number) => Promise<Uint8Array>,
): NodeJS.ReadableStream {
  const zip = new ZipFile();
  files.forEach(({ name }, n) => {
    zip.addReadStreamLazy(name, { mtime: at }, (give) => {
      bytesOf(n).then(
        (bytes) => give(null, Readable.from([Buffer.from(bytes)])),
        (error: Error) => give(error, Readable.from([])),
      );
    });
  });
  zip.end();
  return zip.outputStream;
}
