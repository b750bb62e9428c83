import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { readFileSync } from 'node:fs'
import { prepareDatasets } from '@/core/data/prepare'
import { edit, startHistory } from '@/core/folio/history'
import { memoryInUse } from '@/core/memory/memory'
import { pxPerMm } from '@/core/scene/units'
import { composeSheet, sheetFonts } from '@/core/sheet/compose-sheet'
import { readFolioFile } from '@/formats/folio-file/folio-file'
import { fontBookOf } from '@/render/font-files'
import type { Ratio } from './measure'

/** Edits after which memories that are bounded are full: the parts of these sheets fill theirs in some 220. */
const warm = 300
const edits = warm + 500

/** What lives on the heap and beside it once everything that can go is gone, in bytes. */
function inUse(): number {
  setFlagsFromString('--expose-gc')
  const collect = runInNewContext('gc') as () => void
  collect()
  collect()
  const { heapUsed, arrayBuffers } = process.memoryUsage()
  return heapUsed + arrayBuffers
}

/** 500 edits of a sheet and its map, each composed: the heap afterwards against the one that memories have filled. */
export function soakRatios(): Ratio[] {
  const { folio, contents } = readFolioFile(readFileSync('demo/a-country-that-reads.keen.json', 'utf8'))
  const datasets = prepareDatasets(folio.datasets, (id) => contents.get(id) ?? null)
  const fonts = fontBookOf(sheetFonts(folio.sheets[0], folio.maps))
  let history = startHistory(folio)
  const step = (n: number): void => {
    history = edit(history, 'Edit', (draft) => {
      const [sheet] = draft.sheets
      const shaded = draft.maps[0].layers.find(({ symbology }) => symbology.kind === 'choropleth')
      if (n % 3 === 0) sheet.parts[2].box.x = 14 + (n % 40)
      else if (n % 3 === 1 && sheet.parts[0].type === 'panel')
        sheet.parts[0].settings.view.scaleDenominator = 2_500_000 + 1000 * n
      else if (shaded?.symbology.kind === 'choropleth') {
        shaded.symbology.settings.method = 'manual'
        shaded.symbology.settings.manualBreaks = [2 + n / 1000, 4, 6]
      }
    })
    const { sheets, maps } = history.folio
    const input = { sheet: sheets[0], maps, datasets, fonts, folioName: '', author: '', date: new Date(0) }
    composeSheet({ ...input, toleranceMm: 0.3 / pxPerMm })
  }
  for (let n = 0; n < warm; n++) step(n)
  const before = inUse()
  for (let n = warm; n < edits; n++) step(n)
  const after = inUse()
  const megabytes = (bytes: number): string => `${(bytes / 2 ** 20).toFixed(0)} MB`
  const kept = memoryInUse().reduce((sum, { bytes }) => sum + bytes, 0)
  console.log(
    `soak: ${megabytes(before)} after ${warm} edits, ${megabytes(after)} after ${edits}, memories by their own count ${megabytes(kept)}`,
  )
  return [
    {
      name: `heap after ${edits - warm} more edits`,
      ratio: after / before,
      budget: 1.1,
      base: `after ${warm} (${megabytes(before)})`,
    },
  ]
}
