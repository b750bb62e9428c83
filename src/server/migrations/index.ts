import type { QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'
import { first } from './0001-first'
import { saveKeys } from './0002-save-keys'
import { documentsKnown } from './0003-documents-known'

/** In the order in which they are run. A migration that has shipped is never changed. */
export const migrations: RunnableMigration<QueryInterface>[] = [first, saveKeys, documentsKnown]
