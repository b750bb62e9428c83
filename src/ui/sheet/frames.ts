'use client'
import { useCallback } from 'react'
import { create } from 'zustand'
import type { Frame } from '@/core/sheet/frame'
import type { PartBox } from '@/core/sheet/part'
import { partTypeOf } from '@/core/sheet/registry'
import type { Part } from '@/core/sheet/spec'

/** How large the parts of the sheet came out when it was last drawn, by id. */
export const useDrawnBoxes = create<{ boxes: Record<string, PartBox> }>()(() => ({ boxes: {} }))

/** Where parts lie: the folio says where they start, the last drawing how large they came out. */
export function useFrameOf(): (part: Part) => Frame {
  const { boxes } = useDrawnBoxes()
  return useCallback(
    (part) => {
      const box = boxes[part.id]
      const { resize } = partTypeOf(part.type)
      const { rotationDeg } = part
      if (resize === 'free' || !box) return { box: part.box, rotationDeg }
      const width = Math.max(part.box.width, resize === 'width' ? 0 : box.width)
      return { box: { ...part.box, width, height: box.height }, rotationDeg }
    },
    [boxes],
  )
}
