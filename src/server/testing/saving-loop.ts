// Saves one revision after another until it is killed, saying each one that was acknowledged.
import { openDatabase } from '../database'
import { createFolio, newFolio, saveFolio } from './folios'

const db = await openDatabase(process.argv[2])
const { folio } = await createFolio(db, newFolio('Under way'))
process.stdout.write(`folio ${folio.id}\n`)
for (let revision = 1; ; revision++) {
  const saved = await saveFolio(db, folio.id, {
    baseRevision: revision,
    folio: { ...folio, author: `revision ${revision + 1}` },
    label: 'Saved',
  })
  process.stdout.write(`saved ${saved.revision}\n`)
}
