import type { Prepared } from '@/core/data/prepare'
import { geometriesOf } from '@/core/data/dataset'
import { extentOf } from '@/core/geo/extent'
import type { Raster } from '@/core/data/raster'
import type { Symbology } from '@/core/kinds/registry'
import { RasterSettings } from '@/core/kinds/raster/spec'
import { mainGeometry } from '@/core/map/view'
import { makeLayer, makeMap, type MapSpec } from '@/core/map/spec'
import { adviseEqualArea } from '@/core/projection/adviser'

/** A plain map of one dataset for the Data desk; null for a table. */
export function previewMap({ entry, dataset }: Prepared): MapSpec | null {
  const extent = extentOf(geometriesOf(dataset).map(mainGeometry))
  if (!extent) return null
  const points = dataset.geometry.kind === 'points'
  const outlinePt = dataset.rowCount > 1000 ? 0.12 : 0.5
  return makeMap({
    id: `preview-${entry.id}`,
    name: entry.name,
    projection: adviseEqualArea(extent),
    background: '#f7f7f7',
    layers: [
      makeLayer({
        id: 'preview',
        name: entry.name,
        datasetId: entry.id,
        symbology: dataset.raster
          ? symbologyOfRaster(entry.name, dataset.raster)
          : {
              kind: 'plain',
              settings: {
                fill: points ? '#5c5c5c' : '#b3b3b3',
                stroke: {
                  colour: dataset.geometry.kind === 'lines' ? '#7a7a7a' : '#ffffff',
                  widthPt: dataset.geometry.kind === 'lines' ? 1 : outlinePt,
                  dashed: false,
                },
                casing: null,
                dotPt: 4,
                dotShape: 'circle',
              },
            },
        inLegend: false,
      }),
    ],
  })
}

/** Kinds of ground in their colours, amounts in greys, pictures as they are. */
function symbologyOfRaster(what: string, { ofKinds, palette, bands }: Raster): Symbology {
  if (ofKinds)
    return {
      kind: 'cell-categories',
      settings: {
        ...{ band: 0, what, order: 'value', own: {}, missing: null },
        set: palette ? null : 'harbour',
      },
    }
  return {
    kind: 'raster',
    settings: RasterSettings.parse({
      look: bands >= 3 ? 'colours' : 'greys',
      ...{ band: 0, low: null, high: null, reversed: false },
    }),
  }
}
