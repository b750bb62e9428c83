import { BarChart3 } from 'lucide-react'
import type { PartFace } from '../face'
import { ChartForm } from './form'

export const chartFace: PartFace<'chart'> = {
  icon: BarChart3,
  Form: ChartForm,
  needsMap: false,
}
