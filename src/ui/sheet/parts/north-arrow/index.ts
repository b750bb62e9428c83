import { Navigation } from 'lucide-react'
import type { PartFace } from '../face'
import { NorthArrowForm } from './form'

export const northArrowFace: PartFace<'north-arrow'> = {
  icon: Navigation,
  Form: NorthArrowForm,
  needsMap: true,
}
