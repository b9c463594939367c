/**
 * The connection pool. One for the process, on globalThis: route handlers and instrumentation are separate
 * bundles with their own copies of this module. Made lazily, so that a build needs no database.
 */
import { Sequelize } from 'sequelize';
import { z } from 'zod';
import { bindModels } from './models';

const environmentSchema = z.object({
  DB_HOST: z.string().default('127.0.0.1'),
  DB_PORT: z.coerce.number().int().positive(),
  DB_NAME: z.string().min(1),
  DB_USER: z.string().min(1),
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
    host: environment.DB_HOST,
    port: environment.DB_PORT,
    logging: false,
    timezone: '+00:00',
    pool: { max: 10, min: 0, acquire: 8_000, idle: 10_000 },
    dialectOptions: { connectTimeout: 4_000 },
    // After a restart of the database each pooled connection fails once.
    retry: { max: 3, match: [/socket has unexpectedly been closed/i, /ECONNRESET/] },
    define: { charset: 'utf8mb4', collate: 'utf8mb4_bin', underscored: true, timestamps: false },
  });
}
