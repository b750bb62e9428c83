import sqlite3InitModule, { type Database, type Sqlite3Static } from '@sqlite.org/sqlite-wasm'

/** What stands in one cell. Whole numbers too large to be exact come as text. */
export type Cell = string | number | Uint8Array | null

/** A database from elsewhere, opened so that nothing but plain reading of tables can happen. */
export type FileDatabase = {
  /** The names of its tables; views and virtual tables are left out. */
  tables: Set<string>
  /** Hands the rows of a query to `take`, cells in the order of the query's columns; returns their names. */
  query: (sql: string, take: (row: Cell[]) => void) => string[]
  close: () => void
}

/** Identifiers are quoted: a name in a file from elsewhere is never part of a statement. */
export const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`

/** The longest text or blob that is read, in bytes. */
const longestCell = 200_000_000
/** Statements that go on for longer are interrupted. */
const statementMs = 300_000
const stepsBetweenLooks = 1_000_000

let engine: Promise<Sqlite3Static> | null = null

// The engine takes a settings object that its types leave out.
const startEngine = sqlite3InitModule as (settings: object) => Promise<Sqlite3Static>

/** What goes wrong is thrown; the engine need not write it into the log as well. */
function start(): Promise<Sqlite3Static> {
  const silent = () => undefined
  Object.assign(globalThis, { sqlite3ApiConfig: { error: silent, warn: silent, log: silent } })
  return startEngine({ print: silent, printErr: silent })
}

/**
 * Opens the bytes of an SQLite file in memory, in an engine that runs in a sandbox (WebAssembly) and whose
 * authorizer lets nothing through but reading columns of tables, counting, and the list of a table's columns.
 * @throws whatever the engine says of bytes that are no database
 */
export async function openFileDatabase(bytes: Uint8Array): Promise<FileDatabase> {
  engine ??= start()
  const sqlite = await engine
  const { capi, wasm } = sqlite
  const db = new sqlite.oo1.DB(':memory:', 'c')
  try {
    const held = wasm.allocFromTypedArray(bytes)
    // A file with a journal of its own beside it is read as it is; the journal is not at hand.
    wasm.heap8u().fill(1, Number(held) + 18, Number(held) + 20)
    const flags = capi.SQLITE_DESERIALIZE_FREEONCLOSE | capi.SQLITE_DESERIALIZE_READONLY
    db.checkRc(capi.sqlite3_deserialize(db, 'main', held, bytes.length, bytes.length, flags))
    restrict(sqlite, db)
    const tables = new Set<string>()
    const query: FileDatabase['query'] = (sql, take) => rowsOf(sqlite, db, { sql, take })
    query('SELECT type, name, sql FROM sqlite_schema', ([type, name, sql]) => {
      if (type === 'table' && !/^\s*create\s+virtual/i.test(String(sql))) tables.add(String(name))
    })
    return { tables, query, close: () => db.close() }
  } catch (error) {
    db.close()
    throw error
  }
}

function restrict({ capi }: Sqlite3Static, db: Database): void {
  capi.sqlite3_limit(db, capi.SQLITE_LIMIT_LENGTH, longestCell)
  capi.sqlite3_limit(db, capi.SQLITE_LIMIT_EXPR_DEPTH, 50)
  capi.sqlite3_set_authorizer(
    db,
    // The engine hands over its context, the action, two names, the database, and the view that asks.
    (...[, action, first, second, , inView]) => {
      if (inView) return capi.SQLITE_DENY
      switch (action) {
        case capi.SQLITE_SELECT:
        case capi.SQLITE_READ:
          return capi.SQLITE_OK
        case capi.SQLITE_PRAGMA:
          return String(first) === 'table_info' ? capi.SQLITE_OK : capi.SQLITE_DENY
        case capi.SQLITE_FUNCTION:
          return String(second) === 'count' ? capi.SQLITE_OK : capi.SQLITE_DENY
        default:
          return capi.SQLITE_DENY
      }
    },
    0,
  )
}

function rowsOf(
  { capi }: Sqlite3Static,
  db: Database,
  { sql, take }: { sql: string; take: (row: Cell[]) => void },
): string[] {
  const deadline = Date.now() + statementMs
  capi.sqlite3_progress_handler(db, stepsBetweenLooks, () => (Date.now() > deadline ? 1 : 0), 0)
  const statement = db.prepare(sql)
  try {
    const names = statement.getColumnNames()
    while (statement.step()) take((statement.get([]) as unknown[]).map(cellOf))
    return names
  } finally {
    statement.finalize()
  }
}

function cellOf(value: unknown): Cell {
  if (typeof value === 'bigint') return value.toString()
  return value === undefined ? null : (value as Cell)
}
