import { Image as ImageIcon } from 'lucide-react'
import type { PartFace } from '../face'
import { PictureForm } from './form'

export const pictureFace: PartFace<'picture'> = {
  icon: ImageIcon,
  Form: PictureForm,
  needsMap: false,
}
