import type { Database } from '../database'

type Manager = {
  getConnection: (options?: object) => Promise<{ exec: (sql: string, done: () => void) => void }>
}

/** Carries a statement out on every connection that is asked for, until it is released. */
export function onEveryConnection(db: Database, sql: string): () => void {
  const manager = db.sequelize.connectionManager as unknown as Manager
  const before = manager.getConnection
  manager.getConnection = async (options) => {
    const connection = await before.call(manager, options)
    await new Promise<void>((done) => connection.exec(sql, done))
    return connection
  }
  return () => {
    manager.getConnection = before
  }
}
