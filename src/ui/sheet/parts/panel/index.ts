import { Map as MapIcon } from 'lucide-react'
import type { PartFace } from '../face'
import { PanelForm } from './form'
import { InsidePanel } from './inside'

export const panelFace: PartFace<'panel'> = {
  icon: MapIcon,
  Form: PanelForm,
  Inside: InsidePanel,
  needsMap: true,
}
