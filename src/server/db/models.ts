/** The tables as Sequelize models. `modelName` is always given: the production build shortens class names. */
import type { RunStatus } from '@/contract';
import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type NonAttribute, type Sequelize } from 'sequelize';

export class ProjectRow extends Model<InferAttributes<ProjectRow>, InferCreationAttributes<ProjectRow>> {
  declare id: string;
  declare name: string;
  /** Of new bodies; empty for none. */
  declare material: CreationOptional<string>;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

export class DocumentRow extends Model<InferAttributes<DocumentRow>, InferCreationAttributes<DocumentRow>> {
  declare id: string;
  declare projectId: string;
  declare kind: string;
  declare name: string;
  /** The present state, packed JSON. */
  declare body: Buffer;
  /** Number of the last edit in it. */
  declare seq: number;
  /** Number of the latest revision, 0 for none, and the last edit in that. */
  declare revision: number;
  declare savedSeq: number;
  /** A PNG of the latest revision that was built. */
  declare thumbnail: CreationOptional<Buffer | null>;
  /** Characters that it has in a project file, with the contents of its files. */
  declare size: CreationOptional<number>;
  /** Deleted ones are kept for a while; they are in no list, and are read unscoped only. */
  declare deletedAt: CreationOptional<Date | null>;
  /** Where they were asked for with it. */
  declare revisions?: NonAttribute<RevisionRow[]>;
  declare evaluations?: NonAttribute<EvaluationRow[]>;
}

export class EditRow extends Model<InferAttributes<EditRow>, InferCreationAttributes<EditRow>> {
  declare documentId: string;
  declare seq: number;
  /** Idempotency key. */
  declare editKey: string;
  /** Envelope and inverse, packed JSON. */
  declare body: Buffer;
  declare author: string;
  declare createdAt: CreationOptional<Date>;
}

export class RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  declare documentId: string;
  declare number: number;
  declare hash: string;
  declare body: Buffer;
  /** Published values by id, packed JSON, as they were when it was saved. */
  declare published: Buffer;
  declare message: string;
  declare author: string;
  declare changeSetId: string | null;
  /** The last edit that is in it; unknown of revisions by older programs. */
  declare seq: number | null;
  /** Key of the request that saved it, so that one sent twice saves once. */
  declare saveKey: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
  declare document?: NonAttribute<DocumentRow>;
  /** Where it was asked for with it. */
  declare evaluation?: NonAttribute<EvaluationRow | null>;
}

/** What was measured on a revision once its geometry was built, or why that could not be. The revision itself is not written to again. */
export class EvaluationRow extends Model<InferAttributes<EvaluationRow>, InferCreationAttributes<EvaluationRow>> {
  declare documentId: string;
  declare number: number;
  /** Published values by id with what was measured, packed JSON; null where nothing could be. */
  declare published: Buffer | null;
  /** Bodies with their properties, packed JSON. */
  declare bodies: Buffer | null;
  /** A small picture of it, as PNG. */
  declare thumbnail: CreationOptional<Buffer | null>;
  /** Why it was tried in vain: it is not tried again. */
  declare unbuilt: string | null;
  declare createdAt: CreationOptional<Date>;
}

/** Derived from documents: which value of which document is taken where. */
export class LinkRow extends Model<InferAttributes<LinkRow>, InferCreationAttributes<LinkRow>> {
  declare documentId: string;
  declare linkId: string;
  declare sourceId: string;
  declare parameterId: string;
  declare seenRevision: number;
  declare document?: NonAttribute<DocumentRow>;
}

/** Meshes by the content key of their shape. */
export class MeshRow extends Model<InferAttributes<MeshRow>, InferCreationAttributes<MeshRow>> {
  declare key: string;
  /** Packed JSON. */
  declare body: Buffer;
  declare createdAt: CreationOptional<Date>;
}

/** What geometry has answered, by the kind and the key of what it was asked; of the program that `program` names. */
export class BuiltAnswerRow extends Model<InferAttributes<BuiltAnswerRow>, InferCreationAttributes<BuiltAnswerRow>> {
  declare name: string;
  declare program: string;
  /** Packed JSON. */
  declare body: Buffer;
  declare createdAt: CreationOptional<Date>;
}

/** Contents of files that documents name by their hashes: each is kept once. */
export class FileRow extends Model<InferAttributes<FileRow>, InferCreationAttributes<FileRow>> {
  declare hash: string;
  declare content: string;
  /** Characters of the content. */
  declare size: number;
}

/** Which documents name which files, now or in what they can be taken back to: what no document names is let go of. */
export class FileUseRow extends Model<InferAttributes<FileUseRow>, InferCreationAttributes<FileUseRow>> {
  declare documentId: string;
  declare hash: string;
}

/** What was found as the sizes of a document were checked. */
export class SizeCheckRow extends Model<InferAttributes<SizeCheckRow>, InferCreationAttributes<SizeCheckRow>> {
  declare documentId: string;
  /** By the ids of the sizes, packed JSON. */
  declare body: Buffer;
}

export class WhatIfRow extends Model<InferAttributes<WhatIfRow>, InferCreationAttributes<WhatIfRow>> {
  declare documentId: string;
  /** All of one document in their order, packed JSON. */
  declare body: Buffer;
}

/** A range run at the server. */
export class RunRow extends Model<InferAttributes<RunRow>, InferCreationAttributes<RunRow>> {
  declare id: string;
  declare documentId: string;
  declare status: RunStatus;
  /** What is asked, of which state of the document, packed JSON. */
  declare asked: Buffer;
  /** What is done of it, packed JSON, and how many samples these are. */
  declare samples: Buffer;
  declare done: number;
  /** The document as it was when it was started, packed JSON, for as long as it is needed. */
  declare document: CreationOptional<Buffer | null>;
  declare createdAt: CreationOptional<Date>;
}

export class ChangeSetRow extends Model<InferAttributes<ChangeSetRow>, InferCreationAttributes<ChangeSetRow>> {
  declare id: string;
  declare projectId: string;
  declare message: string;
  declare author: string;
  /** Packed: what was left as it was, and why. */
  declare leftBehind: CreationOptional<Buffer | null>;
  /** The change set that this one takes back. */
  declare undoes: CreationOptional<string | null>;
  declare revisions?: NonAttribute<RevisionRow[]>;
  declare undoneBy?: NonAttribute<ChangeSetRow | null>;
  declare createdAt: CreationOptional<Date>;
}

// Made anew for each column: Sequelize writes the column's name into the object that it is given.
const id = () => ({ type: DataTypes.STRING(40), allowNull: false });
const packed = () => ({ type: DataTypes.BLOB('long'), allowNull: false });
const createdAt = () => ({ type: DataTypes.DATE(3), allowNull: false, defaultValue: DataTypes.NOW });
const deletedAt = () => ({ type: DataTypes.DATE(3), allowNull: true });
const count = () => ({ type: DataTypes.INTEGER.UNSIGNED, allowNull: false });

export function bindModels(sequelize: Sequelize): void {
  ProjectRow.init(
    {
      id: { ...id(), primaryKey: true },
      name: { type: DataTypes.STRING(120), allowNull: false },
      material: { type: DataTypes.STRING(60), allowNull: false, defaultValue: '' },
      createdAt: createdAt(),
      deletedAt: deletedAt(),
    },
    { sequelize, modelName: 'Project', tableName: 'project', defaultScope: { where: { deletedAt: null } } },
  );
  DocumentRow.init(
    {
      id: { ...id(), primaryKey: true },
      projectId: id(),
      kind: { type: DataTypes.STRING(20), allowNull: false },
      name: { type: DataTypes.STRING(120), allowNull: false },
      body: packed(),
      seq: count(),
      revision: count(),
      savedSeq: count(),
      thumbnail: { type: DataTypes.BLOB('medium') },
      size: { ...count(), defaultValue: 0 },
      deletedAt: deletedAt(),
    },
    { sequelize, modelName: 'Document', tableName: 'document', defaultScope: { where: { deletedAt: null } } },
  );
  EditRow.init(
    {
      documentId: { ...id(), primaryKey: true },
      seq: { ...count(), primaryKey: true },
      editKey: id(),
      body: packed(),
      author: { type: DataTypes.STRING(60), allowNull: false },
      createdAt: createdAt(),
    },
    { sequelize, modelName: 'Edit', tableName: 'edit' },
  );
  RevisionRow.init(
    {
      documentId: { ...id(), primaryKey: true },
      number: { ...count(), primaryKey: true },
      hash: { type: DataTypes.STRING(64), allowNull: false },
      body: packed(),
      published: packed(),
      message: { type: DataTypes.STRING(500), allowNull: false },
      author: { type: DataTypes.STRING(60), allowNull: false },
      changeSetId: { type: DataTypes.STRING(40), allowNull: true },
      seq: { ...count(), allowNull: true },
      saveKey: { type: DataTypes.STRING(40), allowNull: true },
      createdAt: createdAt(),
    },
    { sequelize, modelName: 'Revision', tableName: 'revision' },
  );
  initEvaluations(sequelize);
  LinkRow.init(
    {
      documentId: { ...id(), primaryKey: true },
      linkId: { ...id(), primaryKey: true },
      sourceId: id(),
      parameterId: { ...id(), primaryKey: true },
      seenRevision: count(),
    },
    { sequelize, modelName: 'Link', tableName: 'link' },
  );
  bindKept(sequelize);
  ChangeSetRow.init(
    {
      id: { ...id(), primaryKey: true },
      projectId: id(),
      message: { type: DataTypes.STRING(500), allowNull: false },
      author: { type: DataTypes.STRING(60), allowNull: false },
      leftBehind: { type: DataTypes.BLOB('medium'), allowNull: true },
      undoes: { type: DataTypes.STRING(40), allowNull: true },
      createdAt: createdAt(),
    },
    { sequelize, modelName: 'ChangeSet', tableName: 'change_set' },
  );
  relate();
}

function initEvaluations(sequelize: Sequelize): void {
  EvaluationRow.init(
    {
      documentId: { ...id(), primaryKey: true },
      number: { ...count(), primaryKey: true },
      published: { type: DataTypes.BLOB('long'), allowNull: true },
      bodies: { type: DataTypes.BLOB('long'), allowNull: true },
      thumbnail: { type: DataTypes.BLOB('medium') },
      unbuilt: { type: DataTypes.STRING(300), allowNull: true },
      createdAt: createdAt(),
    },
    { sequelize, modelName: 'Evaluation', tableName: 'evaluation' },
  );
}

/** What is kept beside documents. */
function bindKept(sequelize: Sequelize): void {
  MeshRow.init(
    { key: { type: DataTypes.STRING(64), allowNull: false, primaryKey: true, field: 'content_key' }, body: packed(), createdAt: createdAt() },
    { sequelize, modelName: 'Mesh', tableName: 'mesh' },
  );
  BuiltAnswerRow.init(
    {
      name: { type: DataTypes.STRING(100), allowNull: false, primaryKey: true },
      program: { type: DataTypes.STRING(60), allowNull: false },
      body: packed(),
      createdAt: createdAt(),
    },
    { sequelize, modelName: 'BuiltAnswer', tableName: 'built_answer' },
  );
  FileRow.init(
    { hash: { type: DataTypes.STRING(64), allowNull: false, primaryKey: true }, content: { type: DataTypes.TEXT('long'), allowNull: false }, size: count() },
    { sequelize, modelName: 'File', tableName: 'file' },
  );
  FileUseRow.init(
    { documentId: { ...id(), primaryKey: true }, hash: { type: DataTypes.STRING(64), allowNull: false, primaryKey: true } },
    { sequelize, modelName: 'FileUse', tableName: 'file_use' },
  );
  SizeCheckRow.init({ documentId: { ...id(), primaryKey: true }, body: packed() }, { sequelize, modelName: 'SizeCheck', tableName: 'size_check' });
  RunRow.init(
    {
      id: { ...id(), primaryKey: true },
      documentId: id(),
      status: { type: DataTypes.STRING(20), allowNull: false },
      asked: packed(),
      samples: packed(),
      done: count(),
      document: { type: DataTypes.BLOB('long'), allowNull: true },
      createdAt: createdAt(),
    },
    { sequelize, modelName: 'Run', tableName: 'run' },
  );
  WhatIfRow.init({ documentId: { ...id(), primaryKey: true }, body: packed() }, { sequelize, modelName: 'WhatIf', tableName: 'what_if' });
}

function relate(): void {
  DocumentRow.hasMany(RevisionRow, { foreignKey: 'documentId', as: 'revisions' });
  DocumentRow.hasMany(EvaluationRow, { foreignKey: 'documentId', as: 'evaluations' });
  // Of one number, too: see MEASURED.
  RevisionRow.hasOne(EvaluationRow, { foreignKey: 'documentId', sourceKey: 'documentId', as: 'evaluation', constraints: false });
  RevisionRow.belongsTo(DocumentRow, { foreignKey: 'documentId', as: 'document' });
  LinkRow.belongsTo(DocumentRow, { foreignKey: 'documentId', as: 'document' });
  ChangeSetRow.hasMany(RevisionRow, { foreignKey: 'changeSetId', as: 'revisions' });
  ChangeSetRow.hasOne(ChangeSetRow, { foreignKey: 'undoes', as: 'undoneBy', constraints: false });
}
