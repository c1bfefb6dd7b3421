import { demoFiles } from '#demo/files.ts';
import { demoGrooves } from '#demo/grooves.ts';

/**
 * Brings the demo files into an empty installation through its own API, the whole piece last so that it
 * stands first.
 */
const address = process.argv[2];
if (!address) throw new Error('Usage: seed ADDRESS');

const listed = (await (await fetch(`${address}/api/songs`)).json()) as { songs: unknown[] };
const removed = (await (await fetch(`${address}/api/songs?removed=true`)).json()) as {
  songs: unknown[];
};
if (listed.songs.length === 0 && removed.songs.length === 0) {
  for (const file of [...demoFiles].reverse()) {
    const form = new FormData();
    form.append('file', new Blob([file.bytes().slice().buffer]), file.name);
    const response = await fetch(`${address}/api/songs`, { method: 'POST', body: form });
    if (!response.ok) throw new Error(`${file.name}: ${await response.text()}`);
  }
  for (const { folder, name, bytes } of demoGrooves) {
    const form = new FormData();
    form.append('file', new Blob([bytes().slice().buffer]), name);
    const response = await fetch(
      `${address}/api/shelf/clips?folder=${encodeURIComponent(folder)}`,
      { method: 'POST', body: form },
    );
    if (!response.ok) throw new Error(`${name}: ${await response.text()}`);
  }
}
