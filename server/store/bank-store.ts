import { createHash } from 'node:crypto';
import { createReadStream, existsSync, mkdirSync } from 'node:fs';
import { open, readFile, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { bankViewSchema, type BankView } from '#contracts/banks.ts';
import { readBank } from '#core/sounds/bank.ts';
import { need, Refusal } from '../refusal.ts';
import { placed } from '../upload.ts';

/**
 * Sound banks of one's own, in files by their hash, each beside what is known of it. They may be larger
 * than memory.
 */
export class BankStore {
  private readonly folder: string;

  constructor(dataFolder: string) {
    this.folder = path.join(dataFolder, 'banks');
    mkdirSync(this.folder, { recursive: true });
  }

  /** The one that was added last first. */
  async list(): Promise<BankView[]> {
    const names = (await readdir(this.folder)).filter((n) => n.endsWith('.json'));
    const banks = await Promise.all(
      names.map(async (n) =>
        bankViewSchema.parse(JSON.parse(await readFile(path.join(this.folder, n), 'utf8'))),
      ),
    );
    return banks.sort((a, b) => (a.addedAt < b.addedAt ? 1 : -1));
  }

  /** Takes a file over that was put aside, if it is a sound bank; one that is there already stays. */
  async add(file: string, name: string): Promise<BankView> {
    const held = need(placed(await checked(file), { file: name }));
    const sha256 = await hashOf(file);
    const before = (await this.list()).find((b) => b.sha256 === sha256);
    if (before) return before;
    const view: BankView = {
      sha256,
      name,
      bytes: (await stat(file)).size,
      ...held,
      missing: [...held.missing],
      addedAt: new Date().toISOString(),
    };
    await rename(file, this.place(sha256, 'bank'));
    // What is known of it comes last and at once: a bank without it is not there.
    await writeFile(this.place(sha256, 'new'), JSON.stringify(view));
    await rename(this.place(sha256, 'new'), this.place(sha256, 'json'));
    return view;
  }

  /** The file of a bank. */
  fileOf(sha256: string): string {
    const file = this.place(this.checkedHash(sha256), 'bank');
    if (!existsSync(file) || !existsSync(this.place(sha256, 'json'))) throw unknown(sha256);
    return file;
  }

  async remove(sha256: string): Promise<void> {
    this.fileOf(sha256);
    await rm(this.place(sha256, 'json'), { force: true });
    await rm(this.place(sha256, 'bank'), { force: true });
  }

  private checkedHash(sha256: string): string {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw unknown(sha256);
    return sha256;
  }

  private place(sha256: string, kind: 'bank' | 'json' | 'new'): string {
    return path.join(this.folder, `${sha256}.${kind}`);
  }
}

const unknown = (sha256: string): Refusal =>
  new Refusal({ code: 'bank-unknown', where: { id: sha256.slice(0, 100) } });

async function checked(file: string): ReturnType<typeof readBank> {
  const handle = await open(file);
  try {
    const { size } = await handle.stat();
    return await readBank(async (at, length) => {
      const bytes = new Uint8Array(Math.max(0, Math.min(length, size - at)));
      const { bytesRead } = await handle.read(bytes, 0, bytes.length, at);
      return bytes.subarray(0, bytesRead);
    }, size);
  } finally {
    await handle.close();
  }
}

async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}
