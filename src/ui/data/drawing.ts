'use client'
import { create } from 'zustand'

type Place = [number, number]

/** An area that is being drawn on the preview map; `done` gets its corners. */
export const useDrawingArea = create<{
  done: ((ring: Place[]) => void) | null
  begin: (done: (ring: Place[]) => void) => void
  end: () => void
}>()((set) => ({
  done: null,
  begin: (done) => set({ done }),
  end: () => set({ done: null }),
}))

/**
 * Every side of a drawn area with places in between, so that it runs on the ground as it was drawn on the
 * map.
 */
export function withPlacesBetween(
  corners: { x: number; y: number }[],
  placeAt: (x: number, y: number) => Place | null,
  stepPx = 12,
): Place[] {
  const ring: Place[] = []
  corners.forEach(({ x, y }, i) => {
    const next = corners[(i + 1) % corners.length]
    const steps = Math.max(1, Math.ceil(Math.hypot(next.x - x, next.y - y) / stepPx))
    for (let s = 0; s < steps; s++) {
      const place = placeAt(x + ((next.x - x) * s) / steps, y + ((next.y - y) * s) / steps)
      if (place) ring.push(place)
    }
  })
  return ring.map(([lon, lat]) => [Number(lon.toFixed(6)), Number(lat.toFixed(6))])
}
