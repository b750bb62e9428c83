import { mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { writeFolioFile } from '@/formats/folio-file/folio-file'
import { demoFolio } from './folio'
import { lindmere } from './lindmere/country'
import { makeWhole } from './whole'
import { planetFiles } from './planet/files'

const folder = path.join(import.meta.dirname, 'data')
mkdirSync(folder, { recursive: true })
const country = lindmere()
const { relief, cover } = country.ground()
for (const [name, text] of Object.entries({ ...country.files, 'land-cover.tif': cover })) {
  writeFileSync(path.join(folder, name), text)
  console.log(`${name}: ${(text.length / 1024).toFixed(0)} kB`)
}

const planetFolder = path.join(folder, 'vintarra')
mkdirSync(planetFolder, { recursive: true })
for (const [name, bytes] of Object.entries(planetFiles())) {
  writeFileSync(path.join(planetFolder, name), bytes)
  console.log(`${name}: ${(bytes.length / 1024).toFixed(0)} kB`)
}

const folioFile = writeFolioFile(
  await demoFolio({
    ...country.files,
    ...planetFiles(),
    'relief.tif': relief,
    'land-cover.tif': cover,
  }),
)
writeFileSync(path.join(import.meta.dirname, 'a-country-that-reads.keen.json'), folioFile)
console.log(`a-country-that-reads.keen.json: ${(folioFile.length / 1024).toFixed(0)} kB`)
await makeWhole(relief)
