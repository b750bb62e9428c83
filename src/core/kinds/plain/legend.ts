import { solid } from '@/core/scene/paint'
import { pointsToMm } from '@/core/scene/units'
import type { KindData, LegendEntry } from '../kind'
import { plainStroke } from './draw'
import type { PlainSettings } from './spec'

export function plainLegend(_: null, settings: PlainSettings, { dataset, name }: KindData): LegendEntry {
  const shape = ({ areas: 'box', lines: 'line', points: 'symbol', none: 'box' } as const)[
    dataset.geometry.kind
  ]
  return {
    heading: '',
    items: [
      {
        key: 'all',
        label: name,
        swatch: {
          shape,
          symbol: settings.dotShape,
          fill: settings.fill && shape !== 'line' ? solid(settings.fill) : null,
          stroke: plainStroke(settings),
          sizeMm: pointsToMm(settings.dotPt),
        },
      },
    ],
  }
}
