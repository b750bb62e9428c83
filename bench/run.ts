// Prints ratios against a baseline measured in the same run and fails when a budget is broken. Each part runs in a
// process of its own: what one leaves on the heap is not collected at another one's cost. Names of parts, if given,
// choose among them.
import { spawnSync } from 'node:child_process'
import { report, type Ratio } from './measure'

const parts: Record<string, () => Promise<Ratio[]>> = {
  classifying: async () => (await import('./classifying')).classifyingRatios(),
  counting: async () => (await import('./counting')).countingRatios(),
  drawing: async () => (await import('./drawing')).drawingRatios(),
  planet: async () => (await import('./planet')).planetDrawingRatios(),
  reading: async () => (await import('./planet')).readingRatios(),
  growth: async () => (await import('./planet')).growthRatios(),
  table: async () => (await import('./planet')).tableRatios(),
  marks: async () => (await import('./marks')).markRatios(),
  dots: async () => (await import('./dots')).dotRatios(),
  surfaces: async () => (await import('./surfaces')).surfaceRatios(),
  rasters: async () => (await import('./rasters')).rasterRatios(),
  cartograms: async () => (await import('./cartograms')).cartogramRatios(),
  labels: async () => (await import('./labels')).labelRatios(),
  sheet: async () => (await import('./sheet')).sheetRatios(),
  opening: async () => (await import('./sheet')).openingRatios(),
  soak: async () => (await import('./soak')).soakRatios(),
  answering: async () => (await import('./answering')).answeringRatios(),
}

const names = process.argv.slice(2)
const unknown = names.find((name) => !(name in parts))
if (unknown) throw new Error(`There is no part “${unknown}”. Parts: ${Object.keys(parts).join(', ')}.`)

if (names.length === 1) process.exitCode = report(await parts[names[0]]()) ? 0 : 1
else
  for (const name of names.length ? names : Object.keys(parts)) {
    const { status } = spawnSync(process.execPath, [...process.execArgv, process.argv[1], name], {
      stdio: 'inherit',
    })
    if (status !== 0) process.exitCode = 1
  }
