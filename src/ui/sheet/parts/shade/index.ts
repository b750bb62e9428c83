import { Blend } from 'lucide-react'
import type { PartFace } from '../face'
import { ShadeForm } from './form'

export const shadeFace: PartFace<'shade'> = {
  icon: Blend,
  Form: ShadeForm,
  needsMap: false,
}
