import type { PreferencesView } from '#contracts/preferences.ts';
import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { Report } from '#core/operations/operation.ts';
import type { InstrumentDefinition } from '#core/instruments/definition.ts';
import type { ClipKind } from '#core/shelf/kind.ts';
import type { Receiver } from '#core/handoff/receiver/receiver.ts';
import type { RecipeStep } from '#core/operations/recipe/run/recipe.ts';
import type { Scope } from '#core/song/scope.ts';
import type { Moves } from '#core/timing/time-map.ts';
import type { Slip } from '#core/handoff/slip.ts';
import type { HandoffFile, HandoffView } from '#contracts/handoffs.ts';
import type { ProblemText } from '#core/problems/problems.ts';
import { storable, storableText } from '../store/storable.ts';
import type { Overview } from '#core/work/overview.ts';
import type { Manifest } from '#core/work/manifest.ts';

/**
 * Bytes by their SHA-256: tracks' events as MTrk bodies, alien chunks, wrappers, handed-off files. Written
 * once, never changed.
 */
export class Blob extends Model<InferAttributes<Blob>, InferCreationAttributes<Blob>> {
  declare sha256: string;
  declare bytes: Buffer;
}

/** Files exactly as they were received. */
export class Original extends Model<InferAttributes<Original>, InferCreationAttributes<Original>> {
  declare sha256: string;
  declare bytes: Buffer;
  declare size: number;
  /** When it came last. */
  declare receivedAt: CreationOptional<Date>;
  /** Where it is from, as somebody typed it. */
  declare source: CreationOptional<string>;
}

export class SongRecord extends Model<
  InferAttributes<SongRecord>,
  InferCreationAttributes<SongRecord>
> {
  declare id: string;
  declare original: string;
  /** The title at its head. */
  declare title: string;
  declare fileName: string;
  declare reading: ProblemText[];
  /** Revision the song is at; undo and redo move it. */
  declare head: number;
  declare tags: CreationOptional<readonly string[]>;
  /** The revision that was looked over last, and how many findings were open in it. */
  declare lookedAt: CreationOptional<number | null>;
  declare openFindings: CreationOptional<number | null>;
  declare removedAt: Date | null;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

export class Revision extends Model<InferAttributes<Revision>, InferCreationAttributes<Revision>> {
  declare songId: string;
  declare number: number;
  /** Revision this one was made from; null for the file as it was read. */
  declare parent: number | null;
  /** Steps from the file as it was read to here. */
  declare depth: number;
  declare overview: Overview;
  declare manifest: Manifest;
}

export class Step extends Model<InferAttributes<Step>, InferCreationAttributes<Step>> {
  declare songId: string;
  /** The revision it made. */
  declare revision: number;
  declare operation: string;
  declare version: number;
  declare settings: Record<string, unknown>;
  declare scope: Scope;
  declare described: string;
  declare report: Report;
  /** How time moved, where it did; steps that were taken before that was noted have none. */
  declare moves: Moves | null;
  declare createdAt: CreationOptional<Date>;
}

export class HandoffRecord extends Model<
  InferAttributes<HandoffRecord>,
  InferCreationAttributes<HandoffRecord>
> {
  declare id: string;
  declare songId: string;
  declare revision: number;
  declare settings: Record<string, unknown>;
  /** Of the first file. */
  declare slip: Slip;
  /** What is listed of each file, its slips, and what is said of all of them; null of one of before, which has one. */
  declare files: readonly HandoffFile[] | null;
  declare slips: readonly Slip[] | null;
  declare notes: readonly string[] | null;
  /** Who it was for, as it was called then. */
  declare receiver: CreationOptional<HandoffView['receiver'] | null>;
  declare fileName: string;
  declare fileSha256: string;
  declare fileBytes: number;
  declare createdAt: CreationOptional<Date>;
}

/** Findings that somebody decided to leave as they are. */
export class LeftAlone extends Model<
  InferAttributes<LeftAlone>,
  InferCreationAttributes<LeftAlone>
> {
  declare songId: string;
  declare key: string;
}

/** A song needs a blob, in some revision or handoff. */
export class BlobUse extends Model<InferAttributes<BlobUse>, InferCreationAttributes<BlobUse>> {
  declare songId: string;
  declare sha256: string;
}

/** A step of a song takes from an original, by hash, or from another song, by id. */
export class SourceUse extends Model<
  InferAttributes<SourceUse>,
  InferCreationAttributes<SourceUse>
> {
  declare songId: string;
  declare kind: 'original' | 'song';
  declare name: string;
}

export class RecipeRecord extends Model<
  InferAttributes<RecipeRecord>,
  InferCreationAttributes<RecipeRecord>
> {
  declare id: string;
  declare name: string;
  declare about: string;
  declare steps: readonly RecipeStep[];
  declare removedAt: Date | null;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

/** What the reader prefers: one row, since nobody logs in. */
export class PreferencesRecord extends Model<
  InferAttributes<PreferencesRecord>,
  InferCreationAttributes<PreferencesRecord>
> {
  declare id: string;
  declare kept: PreferencesView;
  declare updatedAt: CreationOptional<Date>;
}

export class ReceiverRecord extends Model<
  InferAttributes<ReceiverRecord>,
  InferCreationAttributes<ReceiverRecord>
> {
  declare id: string;
  declare name: string;
  declare receiver: Receiver;
  declare removedAt: Date | null;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

/** A link to one handoff. */
export class LinkRecord extends Model<
  InferAttributes<LinkRecord>,
  InferCreationAttributes<LinkRecord>
> {
  declare id: string;
  declare handoffId: string;
  declare songId: string;
  declare secretSha256: string;
  declare expiresAt: Date;
  declare revokedAt: Date | null;
  declare downloads: number;
  declare createdAt: CreationOptional<Date>;
}

export class InstrumentRecord extends Model<
  InferAttributes<InstrumentRecord>,
  InferCreationAttributes<InstrumentRecord>
> {
  declare id: string;
  declare name: string;
  declare definition: InstrumentDefinition;
  declare removedAt: Date | null;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

export class ClipRecord extends Model<
  InferAttributes<ClipRecord>,
  InferCreationAttributes<ClipRecord>
> {
  declare id: string;
  declare sha256: string;
  /** Which of the songs in the file. */
  declare part: number;
  declare folder: string;
  declare name: string;
  declare tags: readonly string[];
  declare kind: ClipKind;
  declare bars: number;
  declare meter: string;
  declare bpm: number;
  declare key: string | null;
  declare notes: number;
  declare drums: boolean;
  /** From 0. */
  declare program: number | null;
  declare addedAt: Date;
  declare removedAt: Date | null;
}

// Sequelize writes into what it is given: each column needs a description of its own.
const column = <T>(type: T) => ({ type, allowNull: false }) as const;
const text = (name: string) => ({
  ...column(DataTypes.TEXT),
  set(this: Model, value: string) {
    this.setDataValue(name, storableText(value));
  },
});
const int = () => column(DataTypes.INTEGER);
const jsonb = (name: string) => ({
  ...column(DataTypes.JSONB),
  set(this: Model, value: unknown) {
    this.setDataValue(name, storable(value));
  },
});
const bytes = () => column(DataTypes.BLOB);
const uuid = () => column(DataTypes.UUID);
const sha = () => column(DataTypes.CHAR(64));
const when = () => column(DataTypes.DATE);

/** Binds the models to a connection. The tables themselves are made by the migrations. */
export function defineModels(sequelize: Sequelize): void {
  defineBytes(sequelize);
  defineSongs(sequelize);
  defineHandoffs(sequelize);
  defineClips(sequelize);
  defineOnesOwn(sequelize);
}

/** Bytes that are kept, and what needs them. */
function defineBytes(sequelize: Sequelize): void {
  const options = { sequelize, underscored: true, timestamps: false } as const;
  Blob.init(
    { sha256: { ...sha(), primaryKey: true }, bytes: bytes() },
    { ...options, tableName: 'blobs' },
  );
  Original.init(
    {
      sha256: { ...sha(), primaryKey: true },
      bytes: bytes(),
      size: int(),
      receivedAt: { ...when(), defaultValue: DataTypes.NOW },
      source: { ...text('source'), defaultValue: '' },
    },
    { ...options, tableName: 'originals' },
  );
  BlobUse.init(
    { songId: { ...uuid(), primaryKey: true }, sha256: { ...sha(), primaryKey: true } },
    { ...options, tableName: 'blob_uses' },
  );
  SourceUse.init(
    {
      songId: { ...uuid(), primaryKey: true },
      kind: { ...text('kind'), primaryKey: true },
      name: { ...text('name'), primaryKey: true },
    },
    { ...options, tableName: 'source_uses' },
  );
}

/** Songs with their steps. */
function defineSongs(sequelize: Sequelize): void {
  const options = { sequelize, underscored: true, timestamps: false } as const;
  SongRecord.init(
    {
      id: { ...uuid(), primaryKey: true },
      original: sha(),
      title: text('title'),
      fileName: text('fileName'),
      reading: jsonb('reading'),
      head: int(),
      tags: { ...jsonb('tags'), defaultValue: [] },
      lookedAt: { type: DataTypes.INTEGER, allowNull: true },
      openFindings: { type: DataTypes.INTEGER, allowNull: true },
      removedAt: { type: DataTypes.DATE, allowNull: true },
      createdAt: when(),
      updatedAt: when(),
    },
    { ...options, timestamps: true, tableName: 'songs' },
  );
  Revision.init(
    {
      songId: { ...uuid(), primaryKey: true },
      number: { ...int(), primaryKey: true },
      parent: { type: DataTypes.INTEGER, allowNull: true },
      depth: int(),
      overview: jsonb('overview'),
      manifest: jsonb('manifest'),
    },
    { ...options, tableName: 'revisions' },
  );
  Step.init(
    {
      songId: { ...uuid(), primaryKey: true },
      revision: { ...int(), primaryKey: true },
      operation: text('operation'),
      version: int(),
      settings: jsonb('settings'),
      scope: jsonb('scope'),
      described: text('described'),
      report: jsonb('report'),
      moves: { ...jsonb('moves'), allowNull: true },
      createdAt: when(),
    },
    { ...options, timestamps: true, updatedAt: false, tableName: 'steps' },
  );
  LeftAlone.init(
    { songId: { ...uuid(), primaryKey: true }, key: { ...text('key'), primaryKey: true } },
    { ...options, tableName: 'left_alone' },
  );
}

/** What left, and links to it. */
function defineHandoffs(sequelize: Sequelize): void {
  const options = { sequelize, underscored: true } as const;
  HandoffRecord.init(
    {
      id: { ...uuid(), primaryKey: true },
      songId: uuid(),
      revision: int(),
      settings: jsonb('settings'),
      slip: jsonb('slip'),
      files: { type: DataTypes.JSONB, allowNull: true },
      slips: { type: DataTypes.JSONB, allowNull: true },
      notes: { type: DataTypes.JSONB, allowNull: true },
      receiver: { type: DataTypes.JSONB, allowNull: true },
      fileName: text('fileName'),
      fileSha256: sha(),
      fileBytes: int(),
      createdAt: when(),
    },
    { ...options, timestamps: true, updatedAt: false, tableName: 'handoffs' },
  );
  LinkRecord.init(
    {
      id: { ...uuid(), primaryKey: true },
      handoffId: uuid(),
      songId: uuid(),
      secretSha256: sha(),
      expiresAt: when(),
      revokedAt: { type: DataTypes.DATE, allowNull: true },
      downloads: int(),
      createdAt: when(),
    },
    { ...options, timestamps: true, updatedAt: false, tableName: 'handoff_links' },
  );
}

/** The shelf. */
function defineClips(sequelize: Sequelize): void {
  const options = { sequelize, underscored: true } as const;
  ClipRecord.init(
    {
      id: { ...uuid(), primaryKey: true },
      sha256: sha(),
      part: int(),
      folder: text('folder'),
      name: text('name'),
      tags: jsonb('tags'),
      kind: column(DataTypes.TEXT),
      bars: int(),
      meter: column(DataTypes.TEXT),
      bpm: column(DataTypes.DOUBLE),
      key: { type: DataTypes.TEXT, allowNull: true },
      notes: int(),
      drums: column(DataTypes.BOOLEAN),
      program: { type: DataTypes.INTEGER, allowNull: true },
      addedAt: when(),
      removedAt: { type: DataTypes.DATE, allowNull: true },
    },
    { ...options, timestamps: false, tableName: 'shelf_clips' },
  );
}

/** What belongs to no song: recipes and instruments of one's own. */
function defineOnesOwn(sequelize: Sequelize): void {
  const options = { sequelize, underscored: true, timestamps: true } as const;
  RecipeRecord.init(
    {
      id: { ...uuid(), primaryKey: true },
      name: text('name'),
      about: text('about'),
      steps: jsonb('steps'),
      removedAt: { type: DataTypes.DATE, allowNull: true },
      createdAt: when(),
      updatedAt: when(),
    },
    { ...options, tableName: 'recipes' },
  );
  PreferencesRecord.init(
    { id: { ...text('id'), primaryKey: true }, kept: jsonb('kept'), updatedAt: when() },
    { ...options, timestamps: true, createdAt: false, tableName: 'preferences' },
  );
  ReceiverRecord.init(
    {
      id: { ...uuid(), primaryKey: true },
      name: text('name'),
      receiver: jsonb('receiver'),
      removedAt: { type: DataTypes.DATE, allowNull: true },
      createdAt: when(),
      updatedAt: when(),
    },
    { ...options, tableName: 'receivers' },
  );
  InstrumentRecord.init(
    {
      id: { ...uuid(), primaryKey: true },
      name: text('name'),
      definition: jsonb('definition'),
      removedAt: { type: DataTypes.DATE, allowNull: true },
      createdAt: when(),
      updatedAt: when(),
    },
    { ...options, tableName: 'instruments' },
  );
}
