import { LayoutDashboard } from 'lucide-react'
import type { PartFace } from '../face'
import { TreemapForm } from './form'

export const treemapFace: PartFace<'treemap'> = {
  icon: LayoutDashboard,
  Form: TreemapForm,
  needsMap: false,
}
