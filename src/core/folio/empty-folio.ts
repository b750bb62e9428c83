import { firstTypeStyles } from '@/core/sheet/type-styles'
import type { Folio } from './schema'
import { folioVersion } from './schema-print'

/** A folio with nothing in it. */
export const emptyFolio = (id: string, name: string): Folio => ({
  format: 'keen-folio',
  version: folioVersion,
  id,
  name,
  author: '',
  datasets: [],
  maps: [],
  ramps: [],
  styles: [],
  typeStyles: firstTypeStyles(),
  palette: [],
  pictures: [],
  sheets: [],
})
