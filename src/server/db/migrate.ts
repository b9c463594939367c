/** Brings the tables up to date. Safe when several processes start at once: the first one in holds a lock. */
import { QueryTypes } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { database } from './connect';
import { MIGRATIONS } from './migrations';

function migrator() {
  const sequelize = database();
  return new Umzug({
    migrations: [...MIGRATIONS],
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'schema_migrations' }),
    logger: undefined,
  });
}

/** Names of migrations that have not been applied. */
export async function listPendingMigrations(): Promise<string[]> {
  return (await migrator().pending()).map(({ name }) => name);
}

export function migrate(): Promise<string[]> {
  const sequelize = database();
  return sequelize.transaction(async (transaction) => {
    const options = { transaction, type: QueryTypes.SELECT } as const;
    const [lock] = await sequelize.query<{ ok: number | null }>("SELECT GET_LOCK('warpbeam_migrations', 60) AS ok", options);
    if (lock?.ok !== 1) throw new Error('timed out waiting for another migration');
    try {
      return (await migrator().up()).map(({ name }) => name);
    } finally {
      await sequelize.query("SELECT RELEASE_LOCK('warpbeam_migrations') AS ok", options);
    }
  });
}
