import { existsSync, statSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { nanoid } from 'nanoid'
import pLimit from 'p-limit'
import { Sequelize, Transaction } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { dataFolder } from './config'
import { migrations } from './migrations'
import { defineModels, type Models } from './models'
import { Problem } from './problem'
import { makeEmptyDatabase, readWrite, type RawConnection } from './sqlite-file'
import { keepScratch } from './work/scratch'

export type Database = {
  sequelize: Sequelize
  /** Where it lies. */
  file: string
  /** What told that file from others when it was opened. */
  place: string
  /**
   * Carries out a write after all that were asked for before: the database takes one at a time, and those that
   * wait here do not wait for its lock. Never call it from within another write.
   * @throws Problem 503 where the file was moved or removed meanwhile
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

export const databaseFile = (folder: string): string => path.join(folder, 'keen-plot.sqlite')

/** A mark that says that a database was made in this folder: one that is missing was taken away. */
const markFile = (folder: string): string => path.join(folder, 'keen-plot.folder')

/**
 * Opens the database of a folder, brings its tables up to date and makes writing safe against a crash. A folder that
 * has none gets one, once.
 * @throws Problem 503 where the one that was there is missing
 */
export async function openDatabase(folder: string): Promise<Database> {
  const file = databaseFile(folder)
  if (!existsSync(file) && existsSync(markFile(folder)))
    throw new Problem(
      503,
      'The database is missing',
      'keen-plot.sqlite was here and is gone. Put it back where it was, or bring a backup back from the shelf. No other one is made in its place.',
      { code: 'database-missing' },
    )
  makeEmptyDatabase(file)
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    storage: file,
    logging: false,
    pool: { max: 1, min: 1, idle: 1e9 },
    // Whatever happens to the file, no connection makes another one.
    dialectOptions: { mode: readWrite },
    // A transaction takes its lock when it begins, where waiting for it is possible.
    transactionType: Transaction.TYPES.IMMEDIATE,
  })
  setUpConnections(sequelize)
  try {
    await sequelize.query('PRAGMA journal_mode = WAL')
    await migrate(sequelize)
  } catch (error) {
    await sequelize.close().catch(() => undefined)
    throw error
  }
  if (!existsSync(markFile(folder))) writeFileSync(markFile(folder), `${nanoid()}\n`)
  const inTurn = pLimit(1)
  const place = placeOf(file)
  return {
    sequelize,
    file,
    place,
    write: (work) =>
      inTurn(async () => {
        if (placeOf(file) !== place) throw moved()
        return work()
      }),
    ...defineModels(sequelize),
  }
}

/** Brings the tables of a database up to date. */
export async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug({
    migrations,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  })
  await umzug.up()
}

/** What tells one file from another in the same place. */
function placeOf(file: string): string {
  try {
    const { dev, ino } = statSync(file)
    return `${dev} ${ino}`
  } catch {
    return ''
  }
}

/** Whether the file that is open is the one that lies in its place. */
export const isInPlace = ({ file, place }: Database): boolean => placeOf(file) === place

/** Codes of troubles with a database that a backup is the way out of. */
export const lostCodes = new Set(['database-damaged', 'database-missing', 'database-moved'])

const moved = (): Problem =>
  new Problem(
    503,
    'The database was moved or removed',
    'What was saved is still shown from it, and nothing is written until keen-plot.sqlite lies where it was. The shelf can write a copy of it.',
    { code: 'database-moved' },
  )

/** The connection that reading goes by, which stays open even where the file was moved. */
export const rawConnection = async ({ sequelize }: Database): Promise<RawConnection> =>
  (await (
    sequelize.connectionManager as unknown as { getConnection: () => Promise<unknown> }
  ).getConnection()) as RawConnection

// One database for the whole process, also when modules are loaded again while developing.
const shared = globalThis as typeof globalThis & { keenPlotDatabase?: Promise<Database> }

const openOwn = async (): Promise<Database> => {
  await keepScratch()
  return openDatabase(dataFolder())
}

export function database(): Promise<Database> {
  shared.keenPlotDatabase ??= openOwn().catch((error: unknown) => {
    shared.keenPlotDatabase = undefined
    throw error
  })
  return shared.keenPlotDatabase
}

/** Closes the database of this process once what is being written is written; its journal goes into it. */
export async function closeOwn(): Promise<void> {
  const open = shared.keenPlotDatabase
  shared.keenPlotDatabase = undefined
  const db = await open?.catch(() => null)
  if (!db) return
  await db.write(async () => db.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)')).catch(() => undefined)
  await db.sequelize.close()
}
