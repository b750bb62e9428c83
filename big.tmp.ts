import { readFileSync } from 'node:fs'
import { readFile } from '@/formats/registry'
const file = process.argv[2]
const bytes = new Uint8Array(readFileSync(file))
const t = Date.now()
try {
const { datasets } = await readFile(bytes, file)
console.log(file, bytes.length / 1e6, 'MB', datasets[0].dataset.rowCount, 'rows', (Date.now() - t) / 1000, 's', process.memoryUsage().rss / 1e6, 'MB')
} catch (e) { console.log('FAILED', (e as Error).message, (Date.now() - t) / 1000) }
