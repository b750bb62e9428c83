import { firstAreaLook, firstShading } from '../first-look'
import type { KindData } from '../kind'
import type { Shown } from '../values'
import type { ChoroplethSettings } from './spec'

/** Areas shaded by a field, with classes, colours and lines as the shape of the data asks for. */
export const firstChoropleth = (shown: Shown, data: KindData): ChoroplethSettings => ({
  ...shown,
  ...firstShading(shown, data),
  ownColours: {},
  uncertainty: null,
  ...firstAreaLook(data),
})
