/**
 * Brings the tables up to date. Safe when several processes start at once: the first one in holds a lock.
 * Before tables that hold something are changed, the whole database is dumped to a file.
 */
import { QueryTypes } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { database } from './connect';
import { dumpDatabase } from './dump';
import { MIGRATIONS, type Migration } from './migrations';

function migrator(migrations: readonly Migration[]) {
  const sequelize = database();
  return new Umzug({
    migrations: [...migrations],
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'schema_migrations' }),
    logger: undefined,
  });
}

/** Dumps to `dumpDirectory` if there is something to lose, then migrates. Gives the file of the dump, if one was made. */
export async function bringUpToDate(dumpDirectory: string, migrations: readonly Migration[] = MIGRATIONS): Promise<string | undefined> {
  const tables = await database().getQueryInterface().showAllTables();
  const [pending] = await migrator(migrations).pending();
  const file = pending && tables.length > 1 ? dumpDatabase(dumpDirectory, pending.name) : undefined;
  await migrate(migrations);
  return file;
}

export function migrate(migrations: readonly Migration[] = MIGRATIONS): Promise<string[]> {
  const sequelize = database();
  return sequelize.transaction(async (transaction) => {
    const options = { transaction, type: QueryTypes.SELECT } as const;
    const [lock] = await sequelize.query<{ ok: number | null }>("SELECT GET_LOCK('warpbeam_migrations', 60) AS ok", options);
    if (lock?.ok !== 1) throw new Error('timed out waiting for another migration');
    try {
      return (await migrator(migrations).up()).map(({ name }) => name);
    } finally {
      await sequelize.query("SELECT RELEASE_LOCK('warpbeam_migrations') AS ok", options);
    }
  });
}
