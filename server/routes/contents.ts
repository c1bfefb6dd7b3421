import { trackHead } from '#core/smf/chunks.ts';
import type { GuessedTrack } from '#core/guessing/guess.ts';
import { KeptLately } from '#core/work/kept-lately.ts';
import type { Manifest } from '#core/work/manifest.ts';
import type { Handlers } from '../answering.ts';
import { drained } from '../drained.ts';
import { Refusal, need } from '../refusal.ts';
import { fileName } from '../file-name.ts';
import { goneAway } from '../gone-away.ts';
import { sendFile } from '../send-file.ts';
import { chordsView, guessesView, keysView } from '../views.ts';
import type { Services } from '../services.ts';
import type { Revision } from '../db/models.ts';
import { SharedWork } from '../threads/shared-work.ts';
import type { HarmonyOfSong } from '../threads/tasks.ts';

type ContentHandlers = Pick<
  Handlers,
  'getTempos' | 'listGuesses' | 'listChords' | 'listKeys' | 'getMap' | 'getBlob' | 'getBlobs'
>;

/** How many detected chords are kept at hand, of all songs. */
const maxChords = 20_000;

/** What a song holds, beyond what it is listed with. */
export function contentHandlers({ songs, facts, pool }: Services): ContentHandlers {
  /** A revision as the threads work on it. */
  const stored = async (manifest: Manifest) => {
    const [blobs, known] = await Promise.all([
      songs.readBlobs(manifest),
      facts.known(manifest.tracks.map((t) => t.blob)),
    ]);
    return { manifest, blobs, known };
  };

  const detecting = new SharedWork<HarmonyOfSong>();
  /** Of revisions that were asked about lately; a revision never changes. */
  const harmonies = new KeptLately<HarmonyOfSong>(maxChords, ({ chords }) => chords.length + 1);
  const harmonyOf = async (
    { songId, number, manifest }: Revision,
    gone: AbortSignal,
  ): Promise<HarmonyOfSong> => {
    const key = `${songId} ${number}`;
    const known = harmonies.get(key);
    if (known) return known;
    return detecting.ask(
      key,
      async (signal) => {
        const found = need(await pool.run('harmony', await stored(manifest), { signal }));
        harmonies.set(key, found);
        return found;
      },
      gone,
    );
  };

  const guessing = new SharedWork<GuessedTrack[]>();

  return {
    async getTempos({ params }) {
      const { record, revision } = await songs.find(params.id);
      const list = need(await pool.run('tempos', await stored(revision.manifest)));
      return { revision: record.head, ...list };
    },

    async listGuesses({ params, response }) {
      const gone = goneAway(response);
      const { record, revision } = await songs.find(params.id);
      const tracks = await guessing.ask(
        `${revision.songId} ${revision.number}`,
        async (signal) =>
          need(await pool.run('guesses', await stored(revision.manifest), { signal })),
        gone,
      );
      return { revision: record.head, tracks: guessesView(tracks) };
    },

    async listChords({ params, query: { from = 1, to = Infinity }, response }) {
      const gone = goneAway(response);
      const { record, revision } = await songs.find(params.id);
      const told = await harmonyOf(revision, gone);
      return { revision: record.head, chords: chordsView(told, from, to) };
    },

    async listKeys({ params, response }) {
      const gone = goneAway(response);
      const { record, revision } = await songs.find(params.id);
      const told = await harmonyOf(revision, gone);
      return { revision: record.head, keys: keysView(told) };
    },

    async getMap({ params, response }) {
      const { manifest } = (await songs.find(params.id)).revision;
      return sendFile(
        response,
        fileName(`${manifest.title} map`, '.mid'),
        need(await pool.run('mapFile', await stored(manifest))),
        { kept: 'now' },
      );
    },

    async getBlob({ params: { sha256 }, response }) {
      const bytes = /^[0-9a-f]{64}$/.test(sha256) ? await songs.blob(sha256) : undefined;
      if (!bytes) throw new Refusal({ code: 'blob-unknown', where: { id: sha256.slice(0, 100) } });
      return sendFile(response, `${sha256.slice(0, 12)}.mtrk`, bytes);
    },

    async getBlobs({ body: { hashes }, response }) {
      const blobs = await songs.blobs.read(hashes);
      const missing = hashes.find((hash) => !blobs.has(hash));
      if (missing) throw new Refusal({ code: 'blob-unknown', where: { id: missing } });
      response.type('application/octet-stream');
      for (const hash of hashes) {
        const bytes = blobs.get(hash)!;
        response.write(trackHead(bytes.length));
        // A client that reads slowly is waited for, so that no more than it takes lies in memory twice.
        if (!response.write(bytes) && !response.destroyed) await drained(response);
      }
      response.end();
      return 'file';
    },
  };
}
