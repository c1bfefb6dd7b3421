import { createHash, randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import { LinkRecord, SongRecord } from '../db/models.ts';
import { Refusal } from '../refusal.ts';
import { isId } from './ids.ts';

/** Bytes of a secret: 128 bits, which nobody guesses. */
const secretBytes = 16;
const dayMs = 86_400_000;

const hashOf = (secret: string): string => createHash('sha256').update(secret).digest('hex');
const unknown = (): Refusal => new Refusal({ code: 'link-unknown', where: {} });

/** Links to handoffs. Of a secret only its hash is kept, and it is told once. */
export class LinkStore {
  async add(
    handoff: { id: string; songId: string },
    days: number,
  ): Promise<{ link: LinkRecord; secret: string }> {
    const secret = randomBytes(secretBytes).toString('base64url');
    const link = await LinkRecord.create({
      id: randomUUID(),
      handoffId: handoff.id,
      songId: handoff.songId,
      secretSha256: hashOf(secret),
      expiresAt: new Date(Date.now() + days * dayMs),
      revokedAt: null,
      downloads: 0,
    });
    return { link, secret };
  }

  list(handoffId: string): Promise<LinkRecord[]> {
    return LinkRecord.findAll({ where: { handoffId }, order: [['createdAt', 'DESC']], limit: 200 });
  }

  async revoke(handoffId: string, id: string): Promise<void> {
    const [found] = isId(id)
      ? await LinkRecord.update({ revokedAt: new Date() }, { where: { id, handoffId } })
      : [0];
    if (found === 0) throw unknown();
  }

  /** The link that a secret opens, if it is still good and its song is still there. */
  async open(secret: string): Promise<LinkRecord> {
    if (!/^[\w-]{22}$/.test(secret)) throw unknown();
    const hash = hashOf(secret);
    const link = await LinkRecord.findOne({ where: { secretSha256: hash } });
    if (!link || !timingSafeEqual(Buffer.from(link.secretSha256), Buffer.from(hash)))
      throw unknown();
    if (link.revokedAt !== null || link.expiresAt.getTime() <= Date.now()) throw unknown();
    const song = await SongRecord.count({ where: { id: link.songId, removedAt: null } });
    if (song === 0) throw unknown();
    return link;
  }

  async countDownload(link: LinkRecord): Promise<void> {
    await link.increment('downloads');
  }
}
