import { List } from 'lucide-react'
import type { PartFace } from '../face'
import { LegendForm } from './form'
import { InsideLegend } from './inside'

export const legendFace: PartFace<'legend'> = {
  icon: List,
  Form: LegendForm,
  Inside: InsideLegend,
  needsMap: true,
}
