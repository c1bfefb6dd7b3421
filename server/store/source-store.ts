import { QueryTypes, type Sequelize } from 'sequelize';
import type { NamedSource } from '#core/operations/sources.ts';
import { blobsOf } from '#core/work/revision.ts';
import type { StoredSource } from '#core/work/sources.ts';
import { Original, Revision } from '../db/models.ts';
import type { BlobStore } from './blob-store.ts';
import { shareLock } from './keeping.ts';
import type { FactStore } from './fact-store.ts';

/** What steps take from outside their song, by name. */
export class SourceStore {
  private readonly sequelize: Sequelize;
  private readonly blobs: BlobStore;
  private readonly facts: FactStore;

  constructor(sequelize: Sequelize, blobs: BlobStore, facts: FactStore) {
    this.sequelize = sequelize;
    this.blobs = blobs;
    this.facts = facts;
  }

  /**
   * Those of the sources that are stored; a step says which it misses. A song that was removed is one as
   * long as it is not purged.
   */
  async read(sources: readonly NamedSource[]): Promise<StoredSource[]> {
    const stored = await Promise.all(
      sources.map((name) => ('original' in name ? this.file(name) : this.revision(name))),
    );
    return stored.filter((source) => source !== undefined);
  }

  /** Keeps a file that no song was made of, or notes that it came again. */
  async keep(sha256: string, bytes: Buffer): Promise<void> {
    await this.sequelize.transaction(async (transaction) => {
      await shareLock(this.sequelize, transaction);
      await Original.bulkCreate([{ sha256, bytes, size: bytes.length, receivedAt: new Date() }], {
        updateOnDuplicate: ['receivedAt'],
        transaction,
        returning: false,
      });
    });
  }

  /** The bytes of a file by their hash; undefined where it is not kept. */
  async bytesOf(sha256: string): Promise<Buffer | undefined> {
    return (await Original.findByPk(sha256))?.bytes;
  }

  /** Where a file is from, as somebody typed it; undefined where the file is not kept. */
  async sourceSaid(sha256: string): Promise<string | undefined> {
    return (await Original.findByPk(sha256, { attributes: ['source'] }))?.source;
  }

  /** Keeps where a file is from; false where the file is not kept. */
  async setFileSource(sha256: string, source: string): Promise<boolean> {
    const [changed] = await Original.update({ source }, { where: { sha256 } });
    return changed > 0;
  }

  /** Where the files are from that a song was made of and took from, as somebody typed it, each once. */
  async sourcesSaidOf(songId: string): Promise<string[]> {
    const rows = await this.sequelize.query<{ source: string }>(
      `SELECT DISTINCT source FROM originals WHERE source <> '' AND (
         sha256 = (SELECT original FROM songs WHERE id = :songId)
         OR sha256 IN (SELECT name FROM source_uses WHERE song_id = :songId AND kind = 'original'))
       ORDER BY source`,
      { replacements: { songId }, type: QueryTypes.SELECT },
    );
    return rows.map(({ source }) => source);
  }

  private async file(
    name: Extract<NamedSource, { original: string }>,
  ): Promise<StoredSource | undefined> {
    const file = await Original.findByPk(name.original);
    return file
      ? { name, stored: { bytes: new Uint8Array(file.bytes), fileName: name.called ?? '' } }
      : undefined;
  }

  private async revision(
    name: Extract<NamedSource, { song: string }>,
  ): Promise<StoredSource | undefined> {
    const revision = await Revision.findOne({
      where: { songId: name.song, number: name.revision },
      attributes: ['manifest'],
    });
    if (!revision) return undefined;
    const { manifest } = revision;
    const [blobs, known] = await Promise.all([
      this.blobs.read(blobsOf(manifest)),
      this.facts.known(manifest.tracks.map((t) => t.blob)),
    ]);
    return { name, stored: { manifest, blobs, known } };
  }
}
