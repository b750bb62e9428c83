import type { LucideIcon } from 'lucide-react'
import type { ComponentType } from 'react'
import type { Part, PartTypeId, Sheet } from '@/core/sheet/spec'
import type { InsideProps } from './inside-props'

export type FormProps<T extends PartTypeId = PartTypeId> = {
  sheet: Sheet
  part: Extract<Part, { type: T }>
}

/** How a type of part is met: its icon, its settings, and what a double click opens inside it. */
export type PartFace<T extends PartTypeId> = {
  icon: LucideIcon
  Form: ComponentType<FormProps<T>>
  Inside?: ComponentType<InsideProps<T>>
  /** Whether there has to be a map before one can be taken. */
  needsMap: boolean
}
