import { DataTypes, type QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'

const { STRING, TEXT, INTEGER, BLOB } = DataTypes
const columns = [
  // How many sheets its document has; null where that is not known yet.
  ['folios', 'sheetCount', INTEGER],
  // `whole` or `damaged`; null where its document has not been looked at yet.
  ['folios', 'condition', STRING],
  // The print of the schema by which its document was written, and the digest of that text.
  ['folios', 'writtenBy', STRING],
  ['folios', 'digest', STRING],
  // What has to be known of a document to serve it, as JSON.
  ['folios', 'facts', TEXT],
  ['folios', 'refs', TEXT],
  // Versions are stored packed; `document` is empty then.
  ['revisions', 'packed', BLOB],
  ['revisions', 'refs', TEXT],
] as const

/** What a document holds stands beside it, so that none is read for the shelf; versions are packed. */
export const documentsKnown: RunnableMigration<QueryInterface> = {
  name: '0003-documents-known',
  async up({ context }) {
    for (const [table, column, type] of columns)
      await context.addColumn(table, column, { type, allowNull: true })
  },
  async down({ context }) {
    for (const [table, column] of columns) await context.removeColumn(table, column)
  },
}
