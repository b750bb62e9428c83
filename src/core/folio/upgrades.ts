import { formulaName } from '@/core/data/formula'
import { leastMm, mostMm } from '@/core/scene/bounded'
import { completed } from './completed'
import { eachOf, isRecord, type Loose } from './loose'

/** The last version that had several prints: what its folios hold is told by looking. */
const lastAmended = 13

/**
 * What brings a folio from one version to the next, by the version that it comes from. The stored value is
 * left as it is.
 */
const steps: Record<number, (folio: Loose) => Loose> = {
  // Names of plain points became labels, which every layer can have; hiding those under a rank became a
  // filter.
  1: (folio) => ({
    ...folio,
    version: 2,
    maps: eachOf(folio.maps, (map) => ({ ...map, layers: eachOf(map.layers, labelsOfPlain) })),
  }),
  // Lengths and places got bounds; parts of no width, which could be made by hand, got the least there is.
  2: (folio) => ({ ...folio, version: 3, sheets: eachOf(folio.sheets, boundedParts) }),
  // Borders are looked at after a file has come in; until then every file was looked at while it was read.
  3: (folio) => ({ ...folio, version: 4, datasets: eachOf(folio.datasets, checkedBorders) }),
  // Four more kinds of prep steps; what is there stays as it is.
  4: (folio) => ({ ...folio, version: 5 }),
  // Parts are turned, mixed and grouped, panels frozen and cut to forms, folios have named type styles: all of it
  // begins as it was without.
  5: (folio) => ({ ...folio, version: 6 }),
  // Legends of several panels, panels with a ground, paragraphs set each by itself, kept colours, maps of dots: all of
  // it begins as it was without.
  6: (folio) => ({ ...folio, version: 7 }),
  // Surfaces, grid cells, contrast of borders and their prep steps; areas drawn by hand. What was there stays flat.
  7: (folio) => ({ ...folio, version: 8 }),
  // Cartograms; what was there stays as it is.
  8: (folio) => ({ ...folio, version: 9 }),
  // Block cartograms, and maps that are stretched; what was there stays as it is.
  9: (folio) => ({ ...folio, version: 10 }),
  // More of what light does to a relief, water in one colour, bands and colours of pictures, prep steps on rasters: all
  // of it begins as it was without.
  10: (folio) => ({ ...folio, version: 11 }),
  // Rasters in classes and by kind, lines of other colours on some ground, tints by what is in view, opacity by value:
  // all of it begins as it was without.
  11: (folio) => ({ ...folio, version: 12 }),
  // More that is said of shapes while reading, and by how much mending changed them: what was said before stays.
  12: (folio) => ({ ...folio, version: 13 }),
  // Panels may have a projection of their own; those that are there keep that of their map.
  13: (folio) => ({ ...folio, version: 14 }),
}

function checkedBorders(dataset: Loose): Loose {
  if (dataset.geometry !== 'areas' || !isRecord(dataset.source)) return dataset
  return { ...dataset, source: { ...dataset.source, borders: 'checked' } }
}

/** A number drawn into bounds; what is none stays as it is, to be refused in words. */
const within = (value: unknown, least: number, most: number): unknown =>
  typeof value === 'number' ? Math.min(most, Math.max(least, value)) : value

function boundedParts(sheet: Loose): Loose {
  const parts = eachOf(sheet.parts, (part) => {
    if (!isRecord(part.box)) return part
    const { x, y, width, height } = part.box
    const box = {
      x: within(x, -mostMm, mostMm),
      y: within(y, -mostMm, mostMm),
      width: within(width, leastMm, mostMm),
      height: within(height, leastMm, mostMm),
    }
    return { ...part, box }
  })
  return { ...sheet, parts }
}

function labelsOfPlain(layer: Loose): Loose {
  const symbology = layer.symbology
  if (!isRecord(symbology) || symbology.kind !== 'plain' || !isRecord(symbology.settings)) return layer
  const { label, ...settings } = symbology.settings
  const plain = { ...layer, symbology: { ...symbology, settings } }
  if (!isRecord(label)) return plain
  const rank = typeof label.rankField === 'string' ? label.rankField : null
  return {
    ...plain,
    filter: rank === null ? '' : `${formulaName(rank)} >= ${Number(label.atLeast) || 0}`,
    labels: {
      text: { by: 'field', field: label.field },
      family: label.family,
      sizePt: label.sizePt,
      rankField: rank,
    },
  }
}

/**
 * A stored folio as the newest version would have written it, as far as its own version is known; what builds of the
 * same number did not write is filled in first.
 */
export function upgraded(stored: unknown, newest: number): unknown {
  let folio = stored
  if (isRecord(folio) && typeof folio.version === 'number' && folio.version <= lastAmended)
    folio = completed(folio)
  while (
    isRecord(folio) &&
    typeof folio.version === 'number' &&
    folio.version < newest &&
    steps[folio.version]
  )
    folio = steps[folio.version](folio)
  return folio
}
