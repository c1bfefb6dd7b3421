import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { Recipe } from '#core/operations/recipe/run/recipe.ts';
import { shippedRecipes } from '#core/operations/recipe/run/shipped.ts';
import { RecipeRecord } from '../db/models.ts';
import { Refusal } from '../refusal.ts';
import { isId } from './ids.ts';

/** Recipes of one's own. Those that are shipped are read-only and stand in the core. */
export class RecipeStore {
  async list(): Promise<RecipeRecord[]> {
    return RecipeRecord.findAll({
      where: { removedAt: null },
      order: [
        ['name', 'ASC'],
        ['id', 'ASC'],
      ],
    });
  }

  async add(recipe: Recipe): Promise<RecipeRecord> {
    return RecipeRecord.create({ id: randomUUID(), ...recipe, removedAt: null });
  }

  /** All of them, or none. */
  async addAll(list: readonly Recipe[], transaction: Transaction): Promise<RecipeRecord[]> {
    return RecipeRecord.bulkCreate(
      list.map((recipe) => ({ id: randomUUID(), ...recipe, removedAt: null })),
      { transaction },
    );
  }

  async change(id: string, recipe: Recipe): Promise<RecipeRecord> {
    const record = await this.find(id);
    return record.update({ ...recipe });
  }

  /** Recipes that are removed are kept, and can be restored. */
  async setRemoved(id: string, removed: boolean): Promise<RecipeRecord> {
    const record = await this.find(id, !removed);
    return record.update({ removedAt: removed ? new Date() : null });
  }

  private async find(id: string, removed = false): Promise<RecipeRecord> {
    if (shippedRecipes.some((r) => r.id === id))
      throw new Refusal({ code: 'recipe-shipped', where: { id } });
    const record = isId(id) ? await RecipeRecord.findByPk(id) : null;
    if (!record || (record.removedAt !== null && !removed))
      throw new Refusal({ code: 'recipe-unknown', where: { id: id.slice(0, 100) } });
    return record;
  }
}
