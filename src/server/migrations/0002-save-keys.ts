import { DataTypes, type QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'

/** Every save has a key, so that one whose answer was lost is known when it is sent again. */
export const saveKeys: RunnableMigration<QueryInterface> = {
  name: '0002-save-keys',
  async up({ context }) {
    await context.addColumn('revisions', 'saveKey', { type: DataTypes.STRING, allowNull: true })
    await context.addIndex('revisions', ['folioId', 'saveKey'])
  },
  async down({ context }) {
    await context.removeIndex('revisions', ['folioId', 'saveKey'])
    await context.removeColumn('revisions', 'saveKey')
  },
}
