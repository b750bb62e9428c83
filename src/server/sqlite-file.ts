import { openSync, closeSync, existsSync } from 'node:fs'
import sqlite3 from 'sqlite3'

/** What a database is opened with: it must be there. */
export const readWrite = sqlite3.OPEN_READWRITE

/** The package's types leave out its online backup. */
type Copying = {
  step: (pages: number, done: (error: Error | null) => void) => void
  finish: (done: () => void) => void
}
export type RawConnection = {
  backup: (
    ...given: [
      file: string,
      into: string,
      from: string,
      fileIsTarget: boolean,
      done: (error: Error | null) => void,
    ]
  ) => Copying
}

/** Makes an empty file where there is none, which is an empty database; nothing else is ever made. */
export function makeEmptyDatabase(file: string): void {
  if (!existsSync(file)) closeSync(openSync(file, 'wx'))
}

/**
 * Copies a whole database between a connection and a file, as it is at one moment, while others read and write
 * (SQLite's online backup, https://sqlite.org/backup.html).
 * @param way `out` of the connection into the file, or `in` from the file
 */
export async function copyDatabase(
  connection: RawConnection,
  file: string,
  way: 'out' | 'in',
): Promise<void> {
  const copying = await new Promise<Copying>((resolve, reject) => {
    const started: Copying = connection.backup(file, 'main', 'main', way === 'out', (error) =>
      error ? reject(error) : resolve(started),
    )
  })
  try {
    await new Promise<void>((resolve, reject) =>
      copying.step(-1, (error) => (error ? reject(error) : resolve())),
    )
  } finally {
    await new Promise<void>((resolve) => copying.finish(() => resolve()))
  }
}

/** Makes a copy one file without a journal beside it. */
export const settleDatabaseFile = (file: string): Promise<void> =>
  withDatabaseFile(file, async (all) => void (await all('PRAGMA journal_mode = DELETE')), readWrite)

/** Opens a database file by a connection of its own, works with it, and closes it. */
async function withConnection<T>(
  file: string,
  mode: number,
  work: (connection: sqlite3.Database) => Promise<T>,
): Promise<T> {
  const connection = await new Promise<sqlite3.Database>((resolve, reject) => {
    const opened: sqlite3.Database = new sqlite3.Database(file, mode, (error) =>
      error ? reject(error) : resolve(opened),
    )
  })
  try {
    return await work(connection)
  } finally {
    await new Promise<void>((resolve) => connection.close(() => resolve()))
  }
}

/** Copies a database out of its file, beside whoever reads and writes it. */
export const copyDatabaseFile = (from: string, to: string): Promise<void> =>
  withConnection(from, readWrite, (connection) =>
    copyDatabase(connection as unknown as RawConnection, to, 'out'),
  )

/** Looks into a database file by a connection of its own. */
export const withDatabaseFile = <T>(
  file: string,
  work: (all: <Row>(sql: string) => Promise<Row[]>) => Promise<T>,
  mode = sqlite3.OPEN_READONLY,
): Promise<T> =>
  withConnection(file, mode, (connection) =>
    work(
      <Row>(sql: string) =>
        new Promise<Row[]>((resolve, reject) =>
          connection.all<Row>(sql, (error, rows) => (error ? reject(error) : resolve(rows))),
        ),
    ),
  )
