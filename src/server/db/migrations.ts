/** Changes of the tables, in order. Listed in code: a bundled server has no files beside it. */
import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize';
import { listHashes, migrateDocument, putContentsIn, takeContentsOut } from '@/core/document';
import { pack, unpack } from './packing';

export interface Migration {
  readonly name: string;
  readonly up: (args: { context: QueryInterface }) => Promise<unknown>;
  readonly down: (args: { context: QueryInterface }) => Promise<unknown>;
}

const OPTIONS = { charset: 'utf8mb4', collate: 'utf8mb4_bin', engine: 'InnoDB' } as const;
// Made anew for each column, as in the models.
const id = () => ({ type: DataTypes.STRING(40), allowNull: false });
const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
const packed = () => ({ type: DataTypes.BLOB('long'), allowNull: false });
const count = () => ({ type: DataTypes.INTEGER.UNSIGNED, allowNull: false });
const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
const owned = (table: string) => ({ ...id(), references: { model: table, key: 'id' }, onDelete: 'CASCADE' as const });

export const MIGRATIONS: readonly Migration[] = [
  {
    name: '0001-documents',
    up: async ({ context: q }) => {
      await q.createTable('project', { id: { ...id(), primaryKey: true }, name: text(120), created_at: time() }, OPTIONS);
      await q.createTable(
        'document',
        {
          id: { ...id(), primaryKey: true },
          project_id: owned('project'),
          kind: text(20),
          name: text(120),
          body: packed(),
          seq: count(),
          revision: count(),
          saved_seq: count(),
        },
        OPTIONS,
      );
      await q.createTable(
        'change_set',
        { id: { ...id(), primaryKey: true }, project_id: owned('project'), message: text(500), author: text(60), created_at: time() },
        OPTIONS,
      );
      await q.createTable(
        'edit',
        {
          document_id: { ...owned('document'), primaryKey: true },
          seq: { ...count(), primaryKey: true },
          edit_key: id(),
          body: packed(),
          author: text(60),
          created_at: time(),
        },
        OPTIONS,
      );
      await q.addIndex('edit', ['document_id', 'edit_key'], { unique: true, name: 'edit_key' });
      await q.createTable(
        'revision',
        {
          document_id: { ...owned('document'), primaryKey: true },
          number: { ...count(), primaryKey: true },
          hash: text(64),
          body: packed(),
          published: packed(),
          bodies: { type: DataTypes.BLOB('long') },
          message: text(500),
          author: text(60),
          change_set_id: { type: DataTypes.STRING(40), allowNull: true, references: { model: 'change_set', key: 'id' }, onDelete: 'SET NULL' },
          created_at: time(),
        },
        OPTIONS,
      );
      await q.createTable(
        'link',
        {
          document_id: { ...owned('document'), primaryKey: true },
          link_id: { ...id(), primaryKey: true },
          source_id: id(),
          parameter_id: { ...id(), primaryKey: true },
          seen_revision: count(),
        },
        OPTIONS,
      );
      await q.addIndex('link', ['source_id', 'parameter_id'], { name: 'where_used' });
    },
    down: async ({ context: q }) => {
      for (const table of ['link', 'revision', 'edit', 'change_set', 'document', 'project']) await q.dropTable(table);
    },
  },
  {
    name: '0002-documents-schema-2',
    up: async ({ context: q }) => {
      await rewriteDocuments(q, 'document', ['id']);
      await rewriteDocuments(q, 'revision', ['document_id', 'number']);
    },
    // Older programs cannot read what newer ones wrote; the dump that is made before each migration can be put back.
    down: () => Promise.resolve(),
  },
  {
    name: '0003-pictures',
    up: async ({ context: q }) => {
      await q.createTable('mesh', { content_key: { ...text(64), primaryKey: true }, body: packed(), created_at: time() }, OPTIONS);
      await q.addColumn('document', 'thumbnail', { type: DataTypes.BLOB('medium'), allowNull: true });
      // Built anew with their pictures when the server starts.
      await q.bulkUpdate('revision', { bodies: null }, {});
    },
    down: async ({ context: q }) => {
      await q.removeColumn('document', 'thumbnail');
      await q.dropTable('mesh');
    },
  },
  {
    name: '0004-change-sets',
    up: async ({ context: q }) => {
      // Where in the log a revision was saved: not known of older ones, which cannot be undone as a set.
      await q.addColumn('revision', 'seq', { ...count(), allowNull: true });
      await q.addColumn('change_set', 'left_behind', { type: DataTypes.BLOB('medium'), allowNull: true });
      await q.addColumn('change_set', 'undoes', { ...id(), allowNull: true });
      await q.addIndex('change_set', ['project_id', 'created_at'], { name: 'project_time' });
      await q.addIndex('change_set', ['undoes'], { name: 'undone', unique: true });
    },
    down: async ({ context: q }) => {
      await q.removeIndex('change_set', 'undone');
      await q.removeIndex('change_set', 'project_time');
      await q.removeColumn('change_set', 'undoes');
      await q.removeColumn('change_set', 'left_behind');
      await q.removeColumn('revision', 'seq');
    },
  },
  {
    name: '0005-sizes-and-deletion',
    up: async ({ context: q }) => {
      const moment = () => ({ type: DataTypes.DATE(3), allowNull: true });
      await q.addColumn('project', 'deleted_at', moment());
      await q.addColumn('document', 'deleted_at', moment());
      await q.addColumn('document', 'size', { ...count(), defaultValue: 0 });
      await q.addColumn('revision', 'save_key', { ...id(), allowNull: true });
      await q.addColumn('revision', 'unbuilt', { ...text(300), allowNull: true });
      await q.addIndex('revision', ['document_id', 'save_key'], { name: 'save_key', unique: true });
      const rows = await q.sequelize.query<{ id: string; body: Buffer }>('SELECT id, body FROM document', { type: QueryTypes.SELECT });
      for (const row of rows) await q.bulkUpdate('document', { size: JSON.stringify(unpack(row.body)).length }, { id: row.id });
    },
    down: async ({ context: q }) => {
      await q.removeIndex('revision', 'save_key');
      for (const column of ['unbuilt', 'save_key']) await q.removeColumn('revision', column);
      for (const column of ['size', 'deleted_at']) await q.removeColumn('document', column);
      await q.removeColumn('project', 'deleted_at');
    },
  },
  {
    name: '0006-files',
    up: async ({ context: q }) => {
      await q.createTable(
        'file',
        { hash: { ...text(64), primaryKey: true }, content: { type: DataTypes.TEXT('long'), allowNull: false }, size: count() },
        OPTIONS,
      );
      await q.createTable('file_use', { document_id: { ...owned('document'), primaryKey: true }, hash: { ...text(64), primaryKey: true } }, OPTIONS);
      await q.addIndex('file_use', ['hash'], { name: 'file_hash' });
      const used = new Set<string>();
      await rewritePacked(q, async (data, document) => {
        const taken = takeContentsOut(data);
        for (const [hash, content] of taken.contents) {
          if (!used.has(hash)) await q.bulkInsert('file', [{ hash, content, size: content.length }]);
          if (!used.has(`${document} ${hash}`)) await q.bulkInsert('file_use', [{ document_id: document, hash }]);
          used.add(hash).add(`${document} ${hash}`);
        }
        return taken.data;
      });
    },
    down: async ({ context: q }) => {
      await rewritePacked(q, async (data) => {
        const hashes = [...listHashes(data)];
        if (hashes.length === 0) return data;
        const rows = await q.sequelize.query<{ hash: string; content: string }>('SELECT hash, content FROM file WHERE hash IN (:hashes)', {
          type: QueryTypes.SELECT,
          replacements: { hashes },
        });
        return putContentsIn(data, new Map(rows.map(({ hash, content }) => [hash, content])));
      });
      await q.dropTable('file_use');
      await q.dropTable('file');
    },
  },
  {
    name: '0007-size-checks',
    up: ({ context: q }) => q.createTable('size_check', { document_id: { ...owned('document'), primaryKey: true }, body: packed() }, OPTIONS),
    down: ({ context: q }) => q.dropTable('size_check'),
  },
  {
    name: '0008-project-material',
    up: ({ context: q }) => q.addColumn('project', 'material', { ...text(60), defaultValue: '' }),
    down: ({ context: q }) => q.removeColumn('project', 'material'),
  },
  {
    name: '0009-evaluations',
    up: async ({ context: q }) => {
      await q.createTable(
        'evaluation',
        {
          document_id: { ...owned('document'), primaryKey: true },
          number: { ...count(), primaryKey: true },
          published: { type: DataTypes.BLOB('long'), allowNull: true },
          bodies: { type: DataTypes.BLOB('long'), allowNull: true },
          unbuilt: { ...text(300), allowNull: true },
          created_at: time(),
        },
        OPTIONS,
      );
      await q.sequelize.query(
        `INSERT INTO evaluation (document_id, number, published, bodies, unbuilt, created_at)
         SELECT document_id, number, IF(bodies IS NULL, NULL, published), bodies, unbuilt, created_at FROM revision WHERE bodies IS NOT NULL OR unbuilt IS NOT NULL`,
      );
      for (const column of ['bodies', 'unbuilt']) await q.removeColumn('revision', column);
    },
    down: async ({ context: q }) => {
      await q.addColumn('revision', 'bodies', { type: DataTypes.BLOB('long'), allowNull: true });
      await q.addColumn('revision', 'unbuilt', { ...text(300), allowNull: true });
      await q.sequelize.query(
        `UPDATE revision JOIN evaluation USING (document_id, number)
         SET revision.bodies = evaluation.bodies, revision.unbuilt = evaluation.unbuilt, revision.published = COALESCE(evaluation.published, revision.published)`,
      );
      await q.dropTable('evaluation');
    },
  },
  {
    name: '0010-what-ifs',
    up: ({ context: q }) => q.createTable('what_if', { document_id: { ...owned('document'), primaryKey: true }, body: packed() }, OPTIONS),
    down: ({ context: q }) => q.dropTable('what_if'),
  },
  {
    name: '0011-runs',
    up: async ({ context: q }) => {
      await q.createTable(
        'run',
        {
          id: { ...id(), primaryKey: true },
          document_id: owned('document'),
          status: text(20),
          asked: packed(),
          samples: packed(),
          done: count(),
          document: { type: DataTypes.BLOB('long'), allowNull: true },
          created_at: time(),
        },
        OPTIONS,
      );
      await q.addIndex('run', ['status'], { name: 'run_status' });
    },
    down: ({ context: q }) => q.dropTable('run'),
  },
  {
    name: '0012-pictures-of-revisions',
    up: ({ context: q }) => q.addColumn('evaluation', 'thumbnail', { type: DataTypes.BLOB('medium'), allowNull: true }),
    down: ({ context: q }) => q.removeColumn('evaluation', 'thumbnail'),
  },
  {
    name: '0013-built-answers',
    up: async ({ context: q }) => {
      await q.createTable('built_answer', { name: { ...text(100), primaryKey: true }, program: text(60), body: packed(), created_at: time() }, OPTIONS);
      await q.addIndex('built_answer', ['created_at'], { name: 'built_answer_age' });
    },
    down: ({ context: q }) => q.dropTable('built_answer'),
  },
];

const PACKED_TABLES = { document: ['id'], revision: ['document_id', 'number'], edit: ['document_id', 'seq'] } as const;

/** Rewrites every stored state, revision and edit, one at a time. */
async function rewritePacked(q: QueryInterface, change: (data: unknown, document: string) => Promise<unknown>): Promise<void> {
  for (const [table, key] of Object.entries(PACKED_TABLES)) {
    const keys = await q.sequelize.query<Record<string, unknown>>(`SELECT ${key.join(', ')} FROM ${table}`, { type: QueryTypes.SELECT });
    for (const where of keys) {
      const condition = key.map((column) => `${column} = :${column}`).join(' AND ');
      const [row] = await q.sequelize.query<{ body: Buffer }>(`SELECT body FROM ${table} WHERE ${condition}`, { type: QueryTypes.SELECT, replacements: where });
      const before = row && unpack<unknown>(row.body);
      const after = await change(before, where[key[0]] as string);
      if (after !== before) await q.bulkUpdate(table, { body: pack(after) }, where);
    }
  }
}

/** Brings every stored document of a table to the present schema. */
async function rewriteDocuments(q: QueryInterface, table: 'document' | 'revision', key: readonly string[]): Promise<void> {
  const rows = await q.sequelize.query<Record<string, unknown>>(`SELECT ${[...key, 'body'].join(', ')} FROM ${table}`, { type: QueryTypes.SELECT });
  for (const row of rows) {
    const before = unpack<unknown>(row['body'] as Buffer);
    const after = migrateDocument(before);
    if (after === before) continue;
    await q.bulkUpdate(table, { body: pack(after) }, Object.fromEntries(key.map((column) => [column, row[column]])));
  }
}
