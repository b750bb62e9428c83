import { eachOf, isRecord, type Loose } from './loose'

/**
 * A folio with what its version came to hold only after builds of the same number had written folios without it: eleven
 * numbers stood for 26 forms of the schema before a number was never amended. It is told by what is there: what a folio
 * has stays as it is.
 */
export function completed(folio: Loose): Loose {
  return {
    ...folio,
    ...within(folio, 'datasets', completedDataset),
    ...within(folio, 'maps', completedMap),
    ...within(folio, 'sheets', (sheet) => ({ ...sheet, ...within(sheet, 'parts', completedPart) })),
    ...within(folio, 'styles', completedLayer),
  }
}

/** A list of something, if it has that, with each of its things completed. */
const within = (of: Loose, key: string, become: (one: Loose) => unknown): Loose =>
  key in of ? { [key]: eachOf(of[key], become) } : {}

/** Version 1: what was known of the file, and where data come from, came later; a join was no step with settings. */
function completedDataset(dataset: Loose): Loose {
  if (!isRecord(dataset.source)) return dataset
  return {
    licence: '',
    dated: '',
    link: '',
    ...dataset,
    source: { uploadId: '', part: 0, options: {}, guessed: {}, notes: [], ...dataset.source },
    ...within(dataset, 'steps', completedStep),
  }
}

function completedStep(step: Loose): Loose {
  if (step.type !== 'join' || 'settings' in step) return step
  const { datasetId, key, otherKey, mended, ...rest } = step
  const settings = { datasetId, keys: [{ key, otherKey }], mended, several: 'first', figures: [] }
  return { on: true, ...rest, settings }
}

const completedMap = (map: Loose): Loose => ({ ...map, ...within(map, 'layers', completedLayer) })

/** What kinds of maps came to have after folios with them had been written, by kind. */
const later: Record<string, Loose> = {
  isolines: { smoothKm: 0 },
  potential: { spanMin: 30, along: null },
}

function completedLayer(layer: Loose): Loose {
  if (!isRecord(layer.symbology)) return layer
  const { kind, settings } = layer.symbology
  const missing = typeof kind === 'string' && Object.hasOwn(later, kind) ? later[kind] : null
  if (!missing || !isRecord(settings)) return layer
  return { ...layer, symbology: { ...layer.symbology, settings: { ...missing, ...settings } } }
}

/** Frozen panels hold a map of their own. */
function completedPart(part: Loose): Loose {
  if (!isRecord(part.settings) || !isRecord(part.settings.frozen)) return part
  const { frozen } = part.settings
  if (!isRecord(frozen.map)) return part
  return { ...part, settings: { ...part.settings, frozen: { ...frozen, map: completedMap(frozen.map) } } }
}
