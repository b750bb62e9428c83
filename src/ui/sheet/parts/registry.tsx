'use client'
import type { PartTypeId } from '@/core/sheet/spec'
import type { PartFace } from './face'
import { legendFace } from './legend'
import { panelFace } from './panel'
import { scaleBarFace } from './scale-bar'
import { textFace } from './text'

/** Every type of part, one line each. */
const faces: { [T in PartTypeId]: PartFace<T> } = {
  panel: panelFace,
  legend: legendFace,
  'scale-bar': scaleBarFace,
  text: textFace,
}

export const partFaceOf = <T extends PartTypeId>(type: T): PartFace<T> => faces[type]
