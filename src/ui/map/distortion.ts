'use client'
import { create } from 'zustand'
import type { DistortionView } from '@/core/map/distortion'

/** How the distortion of the projection is shown on the desk; it belongs to the work, not to the map. */
export const useDistortion = create<{ view: DistortionView | 'none' }>(() => ({ view: 'none' }))
