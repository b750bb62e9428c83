import type { SheetContext } from '@/core/sheet/part'
import type { Sheet } from '@/core/sheet/spec'
import type { Check, Finding, ProofInput } from './check'
import { barOnCartogram } from './checks/bar-on-cartogram'
import { partsAtPlaces } from './checks/parts-at-places'
import { emptyClasses } from './checks/empty-classes'
import { equalArea } from './checks/equal-area'
import { fillInsKnown } from './checks/fill-ins-known'
import { insidePage } from './checks/inside-page'
import { labelsPlaced } from './checks/labels-placed'
import { legendPresent } from './checks/legend-present'
import { amountsOneScale } from './checks/amounts-one-scale'
import { blocksAddUp } from './checks/blocks-add-up'
import { namedTiles } from './checks/named-tiles'
import { pictureFine } from './checks/picture-fine'
import { rasterFine } from './checks/raster-fine'
import { scaleBarPresent } from './checks/scale-bar'
import { scaleHolds } from './checks/scale-holds'
import { sourceGiven } from './checks/source-given'
import { totalsShaded } from './checks/totals-shaded'
import { typeSize } from './checks/type-size'
import { valuesInClasses } from './checks/values-in-classes'

/** Every check, one line each, in the order in which they are shown. */
const checks: Check[] = [
  valuesInClasses,
  emptyClasses,
  totalsShaded,
  legendPresent,
  sourceGiven,
  fillInsKnown,
  equalArea,
  scaleBarPresent,
  scaleHolds,
  barOnCartogram,
  labelsPlaced,
  namedTiles,
  blocksAddUp,
  amountsOneScale,
  insidePage,
  pictureFine,
  rasterFine,
  partsAtPlaces,
  typeSize,
]

export type ProofLine = Finding & { id: string; title: string }

/** What the checks found on a sheet, what needs a look first. */
export function proofSheet(sheet: Sheet, context: SheetContext): ProofLine[] {
  const input: ProofInput = { sheet, context, layers: layersSeen(context) }
  const lines = checks.flatMap((check): ProofLine[] => {
    const finding = check.run(input)
    return finding ? [{ ...finding, id: check.id, title: finding.ok ? check.passed : check.failed }] : []
  })
  return [...lines.filter((line) => !line.ok), ...lines.filter((line) => line.ok)]
}

function layersSeen({ panels }: SheetContext): ProofInput['layers'] {
  const seen = panels.flatMap(({ map, layers }) => layers.map((drawn) => ({ ...drawn, map })))
  return [...new Map(seen.map((one) => [one.layer.id, one])).values()]
}
