import type { Feature, FeatureCollection, Geometry } from 'geojson'
import { typedCellOf, type Column } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import type { FieldMeta } from '@/core/data/field-meta'
import { flatShapeOf } from '@/core/geo/sphere/flat'
import { SaidError } from '@/core/said/said-error'
import { definitionOf, mapPositions, type Definition } from '../crs/reproject'

/**
 * A dataset to be written: with readable or short field names, in degrees or in a chosen reference system.
 */
export type WriteRequest = {
  dataset: Dataset
  name: string
  fieldMeta: (key: string) => FieldMeta
  fieldNames: 'readable' | 'short'
  crs: string
}

/** A file, and what of the dataset is not in it as it was, in words for the person. */
export type Written = { bytes: Uint8Array; remarks: string[] }

export type WritableField = { name: string; column: Column }

/** The fields under the names they get in the file; a name that would stand twice is counted on. */
export function namedFields({ dataset, fieldMeta, fieldNames }: WriteRequest): WritableField[] {
  const taken = new Set<string>()
  const counts = new Map<string, number>()
  return dataset.fields.map(({ key, column }) => {
    const wanted = fieldNames === 'readable' ? fieldMeta(key).label : key
    let name = wanted
    let n = counts.get(wanted) ?? 1
    while (taken.has(name)) name = `${wanted} ${++n}`
    counts.set(wanted, n)
    taken.add(name)
    return { name, column }
  })
}

/** Each shape in the chosen reference system, made when it is asked for: millions of them are not held. */
export function shapeMaker({ dataset, crs }: WriteRequest): {
  shapeAt: (row: number) => Geometry | null
  definition: Definition
} {
  const definition = definitionOf(crs)
  const { fromDegrees } = definition
  return {
    definition,
    shapeAt: (row) => {
      const shape = flatShapeOf(dataset.geometry, row)
      return shape && fromDegrees
        ? mapPositions(shape, (lon, lat) => {
            const [x, y] = fromDegrees(lon, lat)
            if (Number.isFinite(x) && Number.isFinite(y)) return [x, y]
            throw new SaidError(
              `Row ${row + 1} lies at ${lon.toFixed(4)}, ${lat.toFixed(4)}, where ${definition.name} has no coordinates. Choose another reference system.`,
            )
          })
        : shape
    },
  }
}

/** Every shape in the chosen reference system. */
export function placedShapes(request: WriteRequest): {
  shapes: (Geometry | null)[]
  definition: Definition
} {
  const { shapeAt, definition } = shapeMaker(request)
  return { definition, shapes: Array.from({ length: request.dataset.rowCount }, (_, row) => shapeAt(row)) }
}

/** Each row as a feature, made when it is asked for. */
export function featureMaker(request: WriteRequest): {
  featureAt: (row: number) => Feature
  definition: Definition
} {
  const fields = namedFields(request)
  const { shapeAt, definition } = shapeMaker(request)
  return {
    definition,
    featureAt: (row) => ({
      type: 'Feature',
      properties: Object.fromEntries(fields.map(({ name, column }) => [name, typedCellOf(column, row)])),
      // A feature may have no shape (RFC 7946, section 3.2); the type does not say so.
      geometry: shapeAt(row) as Geometry,
    }),
  }
}

export function featureCollection(request: WriteRequest): {
  collection: FeatureCollection
  definition: Definition
} {
  const { featureAt, definition } = featureMaker(request)
  const features = Array.from({ length: request.dataset.rowCount }, (_, row) => featureAt(row))
  return { collection: { type: 'FeatureCollection', features }, definition }
}
