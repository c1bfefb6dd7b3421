import type { Transaction } from 'sequelize';
import { keyCommands } from '#contracts/key-commands.ts';
import { clashOf, preferencesSchema, type PreferencesView } from '#contracts/preferences.ts';
import { PreferencesRecord } from '../db/models.ts';
import { Refusal } from '../refusal.ts';

const id = 'all';

/** What the reader prefers, kept for whatever browser it is seen with. */
export class PreferenceStore {
  /** What was kept by another version and is understood no more is as the product has it. */
  async read(): Promise<PreferencesView> {
    const kept = preferencesSchema.safeParse((await PreferencesRecord.findByPk(id))?.kept ?? {});
    return kept.success ? kept.data : preferencesSchema.parse({});
  }

  /** Several things that are kept together, or not at all. */
  together<T>(act: (transaction: Transaction) => Promise<T>): Promise<T> {
    return PreferencesRecord.sequelize!.transaction(act);
  }

  async keep(kept: PreferencesView, transaction?: Transaction): Promise<PreferencesView> {
    const clash = clashOf(kept);
    if (clash)
      throw new Refusal({
        code: 'key-clash',
        where: { field: `keys.${clash.id}` },
        title: keyCommands[clash.id].title,
        given: clash.key,
        by: clash.by,
      });
    await PreferencesRecord.upsert({ id, kept }, transaction ? { transaction } : {});
    return kept;
  }
}
