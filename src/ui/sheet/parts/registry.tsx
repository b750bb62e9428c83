'use client'
import type { PartTypeId } from '@/core/sheet/spec'
import type { PartFace } from './face'
import { calloutFace } from './callout'
import { chartFace } from './chart'
import { legendFace } from './legend'
import { northArrowFace } from './north-arrow'
import { panelFace } from './panel'
import { pictureFace } from './picture'
import { scaleBarFace } from './scale-bar'
import { shadeFace } from './shade'
import { shapeFace } from './shape'
import { tableFace } from './table'
import { textFace } from './text'
import { amountFace } from './amount'
import { treemapFace } from './treemap'

/** Every type of part, one line each. */
const faces: { [T in PartTypeId]: PartFace<T> } = {
  panel: panelFace,
  legend: legendFace,
  'scale-bar': scaleBarFace,
  'north-arrow': northArrowFace,
  text: textFace,
  callout: calloutFace,
  table: tableFace,
  chart: chartFace,
  treemap: treemapFace,
  amount: amountFace,
  shape: shapeFace,
  shade: shadeFace,
  picture: pictureFace,
}

export const partFaceOf = <T extends PartTypeId>(type: T): PartFace<T> => faces[type]
