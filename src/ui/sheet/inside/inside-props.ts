import type { PartBox } from '@/core/sheet/part'
import type { Part, PartTypeId, Sheet } from '@/core/sheet/spec'

/** What the inside of a part is handed: its box on the page in mm, `scale` in pixels to the millimetre. */
export type InsideProps<T extends PartTypeId = PartTypeId> = {
  sheet: Sheet
  part: Extract<Part, { type: T }>
  box: PartBox
  scale: number
  onLeave: () => void
  drawn: unknown
}
