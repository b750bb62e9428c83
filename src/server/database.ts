import path from 'node:path'
import pLimit from 'p-limit'
import { Sequelize, Transaction } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { dataFolder } from './config'
import { migrations } from './migrations'
import { defineModels, type Models } from './models'
import { clearScratch } from './work/scratch'

export type Database = {
  sequelize: Sequelize
  /**
   * Carries out a write after all that were asked for before: the database takes one at a time, and those that
   * wait here do not wait for its lock. Never call it from within another write.
   */
  write: <T>(work: () => PromiseLike<T>) => Promise<T>
} & Models

/** How long a connection waits for another program that holds the database. */
const busyMs = 10_000

type Connection = {
  configure: (option: 'busyTimeout', value: number) => void
  exec: (sql: string, done: (error: Error | null) => void) => void
}

/**
 * Every transaction has a connection of its own, and what is set on one does not hold for the others: each is
 * set up when it is opened.
 */
function setUpConnections(sequelize: Sequelize): void {
  // The library has no hook for SQLite's connections; its manager is where all of them come from.
  const manager = sequelize.connectionManager as unknown as {
    getConnection: (options?: object) => Promise<Connection>
  }
  const open = manager.getConnection.bind(manager)
  const known = new WeakSet<Connection>()
  manager.getConnection = async (options) => {
    const connection = await open(options)
    if (known.has(connection)) return connection
    known.add(connection)
    connection.configure('busyTimeout', busyMs)
    await new Promise<void>((resolve, reject) => {
      connection.exec('PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON', (error) =>
        error ? reject(error) : resolve(),
      )
    })
    return connection
  }
}

/** Opens the database of a folder, brings its tables up to date and makes writing safe against a crash. */
export async function openDatabase(folder: string): Promise<Database> {
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    storage: path.join(folder, 'keen-plot.sqlite'),
    logging: false,
    pool: { max: 1, min: 1, idle: 1e9 },
    // A transaction takes its lock when it begins, where waiting for it is possible.
    transactionType: Transaction.TYPES.IMMEDIATE,
  })
  setUpConnections(sequelize)
  await sequelize.query('PRAGMA journal_mode = WAL')
  const umzug = new Umzug({
    migrations,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  })
  await umzug.up()
  const inTurn = pLimit(1)
  return {
    sequelize,
    write: (work) => inTurn(async () => work()),
    ...defineModels(sequelize),
  }
}

// One database for the whole process, also when modules are loaded again while developing.
const shared = globalThis as typeof globalThis & { keenPlotDatabase?: Promise<Database> }

const openOwn = async (): Promise<Database> => {
  clearScratch()
  return openDatabase(dataFolder())
}

export function database(): Promise<Database> {
  shared.keenPlotDatabase ??= openOwn().catch((error: unknown) => {
    shared.keenPlotDatabase = undefined
    throw error
  })
  return shared.keenPlotDatabase
}
