import { DataTypes, type QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'

const id = { type: DataTypes.STRING, primaryKey: true, allowNull: false }
const folioId = {
  type: DataTypes.STRING,
  allowNull: false,
  references: { model: 'folios', key: 'id' },
  onDelete: 'CASCADE',
}
const time = { type: DataTypes.DATE, allowNull: false }
const text = { type: DataTypes.TEXT, allowNull: false }

/** Folios with their revisions, stored datasets, pictures and prints. */
export const first: RunnableMigration<QueryInterface> = {
  name: '0001-first',
  async up({ context }) {
    await context.createTable('folios', {
      id,
      name: text,
      document: text,
      revision: { type: DataTypes.INTEGER, allowNull: false },
      isDemo: { type: DataTypes.BOOLEAN, allowNull: false },
      changedAt: time,
      deletedAt: { type: DataTypes.DATE },
    })
    await context.createTable('revisions', {
      id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      folioId,
      number: { type: DataTypes.INTEGER, allowNull: false },
      /** `saved` is part of the line; `refused` was kept when a save came too late. */
      kind: { type: DataTypes.STRING, allowNull: false },
      label: text,
      document: text,
      savedAt: time,
    })
    await context.addIndex('revisions', ['folioId', 'number'])
    await context.createTable('datasets', {
      id,
      rowCount: { type: DataTypes.INTEGER, allowNull: false },
      geometry: { type: DataTypes.STRING, allowNull: false },
      bytes: { type: DataTypes.INTEGER, allowNull: false },
      storedAt: time,
    })
    await context.createTable('assets', {
      id,
      folioId,
      kind: { type: DataTypes.STRING, allowNull: false },
      mime: { type: DataTypes.STRING, allowNull: false },
      data: { type: DataTypes.BLOB, allowNull: false },
      storedAt: time,
    })
    await context.createTable('prints', {
      id,
      folioId,
      sheetName: text,
      settings: text,
      revision: { type: DataTypes.INTEGER, allowNull: false },
      fileName: text,
      bytes: { type: DataTypes.INTEGER, allowNull: false },
      madeAt: time,
    })
    await context.addIndex('prints', ['folioId', 'madeAt'])
  },
  async down({ context }) {
    for (const table of ['prints', 'assets', 'datasets', 'revisions', 'folios'])
      await context.dropTable(table)
  },
}
