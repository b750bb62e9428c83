import { Shapes } from 'lucide-react'
import type { PartFace } from '../face'
import { ShapeForm } from './form'
import { InsideShape } from './inside'

export const shapeFace: PartFace<'shape'> = {
  icon: Shapes,
  Form: ShapeForm,
  Inside: InsideShape,
  needsMap: false,
}
