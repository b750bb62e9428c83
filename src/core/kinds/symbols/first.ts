import { firstClassing } from '@/core/classify/spec'
import type { KindData } from '../kind'
import { firstPicture } from '../marks/shapes'
import { numberFields, valuesOf } from '../values'
import { firstAnchor } from './plan'
import { flannery } from './scale'
import type { SymbolSettings } from './spec'

/** The first field worth sizing: a total before anything else. */
export function firstField(data: KindData): string {
  const keys = numberFields(data)
  return (
    keys.find((key) => data.fieldMeta(key).role === 'total') ??
    keys.find((key) => !['code', 'date'].includes(data.fieldMeta(key).role)) ??
    keys[0] ??
    ''
  )
}

/** Circles sized by a field, the largest as large as a map bears. */
export function firstSymbols(field: string, data: KindData): SymbolSettings {
  const shown = { field, per: null, perCount: 1 }
  const size = { shape: 'circle', scaling: 'area', exponent: flannery } as const
  return {
    ...shown,
    ...firstClassing(4),
    ...size,
    anchor: firstAnchor(size, valuesOf(shown, data.dataset)),
    leastMm: 0.5,
    graded: false,
    picture: firstPicture,
    displace: null,
    barWidthMm: 2,
    fill: '#b5533c',
    opacity: 0.8,
    outline: { colour: '#ffffff', widthPt: 0.4 },
    negative: { fill: '#3c6fb5', hollow: false },
    colour: { by: 'nothing' },
    missing: { colour: '#a8a8a8', label: 'no data' },
    legend: { form: 'nested', values: [] },
  }
}
