import type { PartBox } from '@/core/sheet/part'
import type { Part, PartTypeId, Sheet } from '@/core/sheet/spec'

/**
 * What the inside of a part is handed: its box on the page in mm before it is turned, `scale` in pixels to the
 * millimetre, and `unturned`, which brings a way on the screen into the part's own directions.
 */
export type InsideProps<T extends PartTypeId = PartTypeId> = {
  sheet: Sheet
  part: Extract<Part, { type: T }>
  box: PartBox
  scale: number
  unturned: (dx: number, dy: number) => [number, number]
  onLeave: () => void
  drawn: unknown
}
