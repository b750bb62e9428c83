import { firstChoices, type FirstChoices } from '@/core/classify/first-choices'
import { firstClassing, type Classing } from '@/core/classify/spec'
import { Colouring } from '@/core/colour/colouring'
import type { SchemeId } from '@/core/colour/schemes'
import { groundAreas } from '@/core/geo/measure'
import type { AreaLook } from './area-drawing'
import { plainAreaLook } from './area-drawing'
import type { KindData } from './kind'
import { valuesOf, type Shown } from './values'

const changeWords = /\b(change|growth|decline|balance|difference|net|migration|gain|loss)\b/i

/** What the shape of the values that are shown says about their classes, with the reasons. */
export function firstChoicesOf(shown: Shown, { dataset, fieldMeta }: KindData): FirstChoices {
  const meta = fieldMeta(shown.field)
  return firstChoices(valuesOf(shown, dataset), {
    isChange: changeWords.test(meta.label),
    isCount: meta.role === 'total' || meta.role === 'rate',
  })
}

/**
 * A scheme of colours for what a field measures, so that maps of different things differ; ones whose palest colour is
 * told from the ground of a first map at a glance.
 */
const schemeFor: Partial<Record<string, SchemeId>> = { share: 'inlet', index: 'ochre' }

/** Classes and colours of areas before anybody chose, by the shape of their values. */
export function firstShading(shown: Shown, data: KindData): Classing & Colouring {
  const { classing, diverging } = firstChoicesOf(shown, data)
  const role = shown.per === null ? data.fieldMeta(shown.field).role : 'rate'
  return {
    ...firstClassing(5),
    ...classing,
    ...Colouring.parse({
      scheme: diverging ? 'bark and reed' : (schemeFor[role] ?? 'meadow'),
      reversed: false,
    }),
  }
}

/** Paper that a first map has for its areas, mm², of which land covers about half. */
const paperMm2 = (180 * 120) / 2
/** Areas smaller than this on paper lose their colour to lines between them; half as fine lines are drawn below. */
const [leastOutlined, leastFull] = [2.5, 12]

/** Lines between areas, as fine as the areas are small: lines of a quarter of a point wipe thousands of them away. */
export function firstAreaLook({ dataset }: Pick<KindData, 'dataset'>): AreaLook {
  const look = plainAreaLook()
  if (dataset.geometry.kind !== 'areas') return look
  const sizes = groundAreas(dataset.geometry)
    .filter((size) => size > 0)
    .sort()
  if (!sizes.length) return look
  const median = sizes[sizes.length >> 1]
  const onPaper = (paperMm2 * median) / sizes.reduce((a, b) => a + b, 0)
  const finer = onPaper < leastOutlined ? 0 : 0.1
  const widthPt = onPaper < leastFull ? finer : look.outline.widthPt
  return { ...look, outline: { ...look.outline, widthPt } }
}
