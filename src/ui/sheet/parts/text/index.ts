import { Type } from 'lucide-react'
import type { PartFace } from '../face'
import { TextForm } from './form'
import { InsideText } from './inside'

export const textFace: PartFace<'text'> = {
  icon: Type,
  Form: TextForm,
  Inside: InsideText,
  needsMap: false,
}
