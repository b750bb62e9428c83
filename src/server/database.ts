import path from 'node:path'
import { Sequelize } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { dataFolder } from './config'
import { migrations } from './migrations'
import { defineModels, type Models } from './models'

export type Database = { sequelize: Sequelize } & Models

/** Opens the database of a folder, brings its tables up to date and makes writing safe against a crash. */
export async function openDatabase(folder: string): Promise<Database> {
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    storage: path.join(folder, 'keen-plot.sqlite'),
    logging: false,
    pool: { max: 1, min: 1, idle: 1e9 },
  })
  await sequelize.query('PRAGMA journal_mode = WAL')
  await sequelize.query('PRAGMA synchronous = FULL')
  await sequelize.query('PRAGMA foreign_keys = ON')
  await sequelize.query('PRAGMA busy_timeout = 5000')
  const umzug = new Umzug({
    migrations,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  })
  await umzug.up()
  return { sequelize, ...defineModels(sequelize) }
}

// One connection for the whole process, also when modules are loaded again while developing.
const shared = globalThis as typeof globalThis & { keenPlotDatabase?: Promise<Database> }

export function database(): Promise<Database> {
  shared.keenPlotDatabase ??= openDatabase(dataFolder()).catch((error: unknown) => {
    shared.keenPlotDatabase = undefined
    throw error
  })
  return shared.keenPlotDatabase
}
