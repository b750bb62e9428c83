import { Ruler } from 'lucide-react'
import type { PartFace } from '../face'
import { ScaleBarForm } from './form'

export const scaleBarFace: PartFace<'scale-bar'> = {
  icon: Ruler,
  Form: ScaleBarForm,
  needsMap: true,
}
