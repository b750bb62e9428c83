'use client'
import { create } from 'zustand'
import type { LabelReport, LeftOut, PlacedLabel } from '@/core/map/label-map'
import type { MapView } from '@/core/map/spec'

/**
 * What became of the labels of the map on the desk, as it was drawn last, and the view that they were placed
 * in.
 */
export const useLabelReport = create<{ report: LabelReport | null; view: MapView | null }>(() => ({
  report: null,
  view: null,
}))

/** The part of a report about one layer. */
export const reportOf = (
  report: LabelReport | null,
  layerId: string,
): { placed: PlacedLabel[]; left: LeftOut[]; problem: string | null } => ({
  placed: report?.placed.filter((one) => one.layerId === layerId) ?? [],
  left: report?.left.filter((one) => one.layerId === layerId) ?? [],
  problem: report?.problems.find((one) => one.layerId === layerId)?.problem ?? null,
})
