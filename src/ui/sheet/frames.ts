'use client'
import { useCallback } from 'react'
import { create } from 'zustand'
import type { Frame } from '@/core/sheet/frame'
import { partTypeOf } from '@/core/sheet/registry'
import type { Part } from '@/core/sheet/spec'
import type { DrawnBox } from '@/workers/scene.worker'

/** How large the parts of the sheet came out when it was last drawn, by id. */
export const useDrawnBoxes = create<{ boxes: Record<string, DrawnBox> }>()(() => ({ boxes: {} }))

/** Where parts lie: the folio says where they start, the last drawing how large they came out. */
export function useFrameOf(): (part: Part) => Frame {
  const { boxes } = useDrawnBoxes()
  return useCallback(
    (part) => {
      const box = boxes[part.id]
      const { resize } = partTypeOf(part.type)
      const { rotationDeg } = part
      const [dx, dy] = box?.drift ?? [0, 0]
      const own = dx || dy ? { ...part.box, x: part.box.x + dx, y: part.box.y + dy } : part.box
      if (resize === 'free' || !box) return { box: own, rotationDeg }
      // While a part is made wider or narrower, what was drawn last is not its width any more.
      const isStale = resize === 'width' && box.askedWidth !== part.box.width
      if (resize === 'none') return { box: { ...own, width: box.width, height: box.height }, rotationDeg }
      const width = isStale ? part.box.width : Math.max(part.box.width, box.width)
      return { box: { ...own, width, height: box.height }, rotationDeg }
    },
    [boxes],
  )
}
