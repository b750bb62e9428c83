import { MessageSquareText } from 'lucide-react'
import type { PartFace } from '../face'
import { CalloutForm } from './form'
import { InsideCallout } from './inside'

export const calloutFace: PartFace<'callout'> = {
  icon: MessageSquareText,
  Form: CalloutForm,
  Inside: InsideCallout,
  needsMap: true,
}
