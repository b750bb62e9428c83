import { isTiled } from '@/core/cartogram/spec'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { groundAreas } from '@/core/geo/measure'
import { planChoropleth, type ChoroplethPlan } from '../choropleth/plan'
import type { KindData } from '../kind'
import type { CartogramSettings } from './spec'

export type CartogramPlan = ChoroplethPlan & {
  /** What each area is sized by; NaN where that is missing. */
  amounts: Float64Array
  /** Their sum, without what is not above zero. */
  total: number
  largest: number
  /** Ground that stands for one unit, or for a tile, m². */
  m2: number
  /** How many areas have a shape. */
  shown: number
}

export function planCartogram(settings: CartogramSettings, data: KindData): CartogramPlan {
  const { dataset } = data
  const column = fieldOf(dataset, settings.size)
  const numbers = column?.kind === 'number' ? numbersOf(column) : null
  const amounts = numbers ?? new Float64Array(dataset.rowCount).fill(NaN)
  const areas = groundAreas(dataset.geometry)
  const tiles = isTiled(settings.form)
  let [total, largest, ground, shown] = [0, 0, 0, 0]
  for (let row = 0; row < dataset.rowCount; row++) {
    if (!(areas[row] > 0) || (!tiles && !(amounts[row] > 0))) continue
    shown++
    ground += areas[row]
    if (!(amounts[row] > 0)) continue
    total = Math.min(Number.MAX_VALUE, total + amounts[row])
    if (amounts[row] > largest) largest = amounts[row]
  }
  const by = tiles ? shown : total
  return {
    ...planChoropleth(settings, data),
    amounts,
    total,
    largest,
    m2: by > 0 ? settings.fill * (ground / by) : 0,
    shown,
  }
}
