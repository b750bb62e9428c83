import type { Feature, FeatureCollection, Geometry } from 'geojson'
import { cellOf, type Column } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import type { FieldMeta } from '@/core/data/field-meta'
import { shapeOf } from '@/core/geo/shapes'
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

/** Every shape in the chosen reference system. */
export function placedShapes({ dataset, crs }: WriteRequest): {
  shapes: (Geometry | null)[]
  definition: Definition
} {
  const definition = definitionOf(crs)
  const { fromDegrees } = definition
  return {
    definition,
    shapes: Array.from({ length: dataset.rowCount }, (_, row) => {
      const shape = shapeOf(dataset.geometry, row)
      return shape && fromDegrees ? mapPositions(shape, fromDegrees) : shape
    }),
  }
}

export function featureCollection(request: WriteRequest): {
  collection: FeatureCollection
  definition: Definition
} {
  const fields = namedFields(request)
  const { shapes, definition } = placedShapes(request)
  const features = shapes.map((geometry, row): Feature => ({
    type: 'Feature',
    properties: Object.fromEntries(fields.map(({ name, column }) => [name, cellOf(column, row)])),
    geometry: geometry as Geometry,
  }))
  return { collection: { type: 'FeatureCollection', features }, definition }
}
