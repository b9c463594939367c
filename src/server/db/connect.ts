/**
 * The connection pool. One for the process, on globalThis: route handlers and instrumentation are separate
 * bundles with their own copies of this module. Made lazily, so that a build needs no database.
 */
import { DatabaseError, Sequelize, Transaction } from 'sequelize';
import * as z from 'zod/mini';
import { connector } from './connector';
import { bindModels } from './models';

const environmentSchema = z.object({
  DB_HOST: z._default(z.string(), '127.0.0.1'),
  DB_PORT: z.coerce.number().check(z.int(), z.positive()),
  DB_NAME: z.string().check(z.minLength(1)),
  DB_USER: z.string().check(z.minLength(1)),
  DB_PASSWORD: z.string(),
});

const shared = globalThis as typeof globalThis & { warpbeamPool?: Sequelize };
let isBound = false;

export function database(): Sequelize {
  const pool = (shared.warpbeamPool ??= connect());
  // Model classes are bound once per copy of the module.
  if (!isBound) {
    bindModels(pool);
    isBound = true;
  }
  return pool;
}

/** How often a transaction that was chosen to give way is begun anew. */
const ATTEMPTS = 5;

/**
 * Work in one transaction. The database may end one of two that wait on each other: that one has done nothing, and is
 * begun anew. So work must not change anything outside the transaction.
 */
export async function transact<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await database().transaction(work);
    } catch (problem) {
      if (attempt >= ATTEMPTS || !isDeadlock(problem)) throw problem;
    }
  }
}

/** ER_LOCK_DEADLOCK of MariaDB. */
function isDeadlock(problem: unknown): boolean {
  if (!(problem instanceof DatabaseError)) return false;
  return 'errno' in problem.original && problem.original.errno === 1213;
}

export async function closeDatabase(): Promise<void> {
  const pool = shared.warpbeamPool;
  delete shared.warpbeamPool;
  isBound = false;
  await pool?.close();
}

function connect(): Sequelize {
  const environment = environmentSchema.parse(process.env);
  return new Sequelize(environment.DB_NAME, environment.DB_USER, environment.DB_PASSWORD, {
    dialect: 'mariadb',
    dialectModule: connector,
    host: environment.DB_HOST,
    port: environment.DB_PORT,
    logging: false,
    timezone: '+00:00',
    // Rows are locked by name; locks on the gaps between them would only make strangers wait on each other.
    isolationLevel: Transaction.ISOLATION_LEVELS.READ_COMMITTED,
    pool: { max: 10, min: 0, acquire: 8_000, idle: 10_000 },
    dialectOptions: { connectTimeout: 4_000 },
    // After a restart of the database each pooled connection fails once.
    retry: { max: 3, match: [/socket has unexpectedly been closed/i, /ECONNRESET/] },
    define: { charset: 'utf8mb4', collate: 'utf8mb4_bin', underscored: true, timestamps: false },
  });
}
