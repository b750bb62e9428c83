// Damages small whole files of every format, by chance from a seed, and brings each in as the server does. None
// may crash its process, take longer than 5 s or more than 1 GB, be answered in words that are not ours, or bring
// in part of a dataset without a word. Files of our own, folios of every version among them, are damaged as well.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { parseArgs } from 'node:util'
import { unpackDataset } from '@/formats/pack/pack'
import { mutated } from './mutate'
import { seeds, type BringIn, type Seed } from './seeds'

const { values } = parseArgs({
  options: {
    count: { type: 'string', default: '400' },
    seed: { type: 'string', default: '1' },
    format: { type: 'string' },
    keep: { type: 'string' },
  },
})
const [count, firstSeed] = [Number(values.count), Number(values.seed)]

const folder = mkdtempSync(path.join(tmpdir(), 'keen-fuzz-'))
process.env.KEEN_PLOT_DATA = folder
process.env.KEEN_PLOT_TASK_MB = '1000'
const longestMs = 5000

const { buildTaskProcess } = await import('../scripts/build.mjs')
await buildTaskProcess()
const { carryOut } = await import('@/server/work/pool')
const { ownSeeds } = await import('./own')
const { TaskFailure } = await import('@/server/work/protocol')

/** What is said where a process ended, or where what was thrown was not foreseen. */
const notOurs = /broke off before it was finished|more memory than|was not foreseen|took longer than/

type Outcome = { rows: number[] | null; words: string; ms: number; notes: number }

const asData: BringIn = (_, fileName, file) =>
  carryOut('importFile', { file, fileName, options: {} }, { limitMs: 2 * longestMs }, async (read) => {
    const said = read.datasets.map(({ notes, remarks }) => notes.length + remarks.length)
    notesOf.set(
      file,
      said.reduce((sum, n) => sum + n, 0),
    )
    return read.datasets.map(({ rowCount, file: pack }) => cellsIn(pack) ?? rowCount)
  })

/** How many cells of a raster have a value; null for what is none. */
function cellsIn(pack: string): number | null {
  const { raster } = unpackDataset(readFileSync(pack))
  return raster ? raster.values.reduce((count, value) => count + (Number.isNaN(value) ? 0 : 1), 0) : null
}

/** How much was said of what was brought in, by the file. */
const notesOf = new Map<string, number>()

async function bringIn({ fileName, bringIn: how = asData }: Seed, bytes: Uint8Array): Promise<Outcome> {
  const file = path.join(folder, `${Math.random().toString(36).slice(2)}`)
  writeFileSync(file, bytes)
  const began = performance.now()
  try {
    const rows = await how(bytes, fileName, file)
    return { rows, words: '', notes: notesOf.get(file) ?? 0, ms: performance.now() - began }
  } catch (error) {
    if (!(error instanceof TaskFailure)) throw error
    return { rows: null, words: error.message, notes: 0, ms: performance.now() - began }
  } finally {
    notesOf.delete(file)
    rmSync(file, { force: true })
  }
}

/** What is wrong with how a damaged file was answered; null where nothing is. */
function faultOf(outcome: Outcome, { whole, seed, how }: { whole: number[]; seed: Seed; how: string }) {
  if (outcome.ms > (seed.longestMs ?? longestMs)) return `took ${(outcome.ms / 1000).toFixed(1)} s`
  if (outcome.rows === null) return notOurs.test(outcome.words) ? `ended with: ${outcome.words}` : null
  const sum = (rows: number[]) => rows.reduce((total, n) => total + n, 0)
  const lost = sum(whole) - sum(outcome.rows)
  // A table of text without its last rows is a whole table; every other file that was cut must be noticed.
  const byLines = /\.(csv|geojsonl)$/.test(seed.fileName)
  const mustBeWhole = (seed.counts && !seed.cells) || (how.startsWith('cut off') && !byLines)
  return mustBeWhole && lost > 0 && outcome.notes === 0
    ? `brought in ${sum(outcome.rows)} of ${sum(whole)} ${seed.cells ? 'cells' : 'rows'} without a word`
    : null
}

let [faults, all] = [0, 0]
const started = performance.now()
for (const [format, files] of Object.entries({ ...(await seeds()), ...ownSeeds() })) {
  if (values.format && values.format !== format) continue
  const whole = await Promise.all(files.map((seed) => bringIn(seed, seed.bytes)))
  const broken = whole.find(({ rows }) => rows === null)
  if (broken) throw new Error(`The whole ${format} file is refused: ${broken.words}`)
  const began = performance.now()
  const times = Math.ceil(count / (files[0].oneOf ?? 1))
  all += times
  let [refused, slowest, next] = [0, 0, 0]
  const worker = async () => {
    while (next < times) {
      const n = firstSeed + next++
      const i = n % files.length
      const { bytes, how } = mutated(files[i], n)
      const outcome = await bringIn(files[i], bytes)
      slowest = Math.max(slowest, outcome.ms)
      if (outcome.rows === null) refused++
      const fault = faultOf(outcome, { whole: whole[i].rows ?? [], seed: files[i], how })
      if (!fault) continue
      faults++
      console.error(`  ${format} ${n} (${how}): ${fault}`)
      if (values.keep) writeFileSync(path.join(values.keep, `${n}-${files[i].fileName}`), bytes)
    }
  }
  await Promise.all([worker(), worker(), worker()])
  console.log(
    `${format.padEnd(11)} ${times} damaged files: ${refused} refused, ${times - refused} read; slowest ${(slowest / 1000).toFixed(2)} s; ${((performance.now() - began) / 1000).toFixed(1)} s in all`,
  )
}
rmSync(folder, { recursive: true, force: true, maxRetries: 5 })
console.log(
  `${faults === 0 ? 'No fault' : `${faults} faults`} in ${all} files after ${((performance.now() - started) / 1000).toFixed(0)} s.`,
)
process.exit(faults === 0 ? 0 : 1)
