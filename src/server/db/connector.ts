/**
 * The connector as Sequelize 6 takes it. From version 3 on, rows come with a `meta` that cannot be deleted, which Sequelize does:
 * they are handed on as a plain array.
 */
import * as mariadb from 'mariadb';
import type { Connection, ConnectionConfig } from 'mariadb';

export const connector = {
  ...mariadb,
  createConnection: async (config: ConnectionConfig): Promise<Connection> => {
    const connection = await mariadb.createConnection(config);
    const query = connection.query.bind(connection);
    connection.query = async <T>(...request: Parameters<typeof query>): Promise<T> => withoutFixedMeta(await query<T>(...request));
    return connection;
  },
};

function withoutFixedMeta<T>(rows: T): T {
  if (!Array.isArray(rows)) return rows;
  const plain: unknown = Object.assign([...(rows as unknown[])], { meta: (rows as { readonly meta?: unknown }).meta });
  return plain as T;
}
