import { numberColumn } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { proposeMeta } from '@/core/data/field-meta'
import { within, type Steps } from '@/core/grid/steps'
import type { KindData } from '../kind'
import { surfaceLookShape, type SurfaceLook } from './look'
import { surfaceOf, surfaceSteps, type Surface, type SurfaceSource } from './surface'

/** What of the settings makes the values of a surface: all but its look. The mask decides which cells count. */
export const madeBy = <S extends SurfaceLook>(settings: S): Record<string, unknown> =>
  Object.fromEntries(Object.entries(settings).filter(([key]) => key === 'mask' || !(key in surfaceLookShape)))

type Member<S> = { settings: S; data: KindData }

/** All surfaces over which the breaks of one are made, itself among them; none where it has breaks of its own. */
function membersOf<S extends SurfaceLook>(settings: S, data: KindData): Member<S>[] {
  const { share } = settings
  if (share?.over !== 'all') return []
  return share.members.flatMap((member) => {
    if (!('made' in member)) return []
    const dataset = data.datasetOf(member.datasetId)
    if (!dataset) return []
    const fieldMeta: KindData['fieldMeta'] = (key) =>
      dataset === data.dataset
        ? data.fieldMeta(key)
        : proposeMeta(key, fieldOf(dataset, key) ?? numberColumn([]))
    return [
      { settings: { ...settings, ...(member.made as Partial<S>) }, data: { ...data, dataset, fieldMeta } },
    ]
  })
}

/** The surfaces over which the breaks of one are made; null where it has breaks of its own. */
export function sharedSurfaces<S extends SurfaceLook>(
  source: SurfaceSource<S>,
  settings: S,
  data: KindData,
): Surface[] | null {
  const members = membersOf(settings, data)
  if (members.length < 2) return null
  return members.flatMap((member) => surfaceOf(source, member.settings, member.data) ?? [])
}

/** Makes a surface, and those with which it shares its breaks, in pieces; null where all are at hand. */
export function readySurfaces<S extends SurfaceLook>(
  source: SurfaceSource<S>,
  settings: S,
  data: KindData,
): Steps<void> | null {
  const all = [{ settings, data }, ...membersOf(settings, data)].flatMap(
    (member) => surfaceSteps(source, member.settings, member.data) ?? [],
  )
  if (!all.length) return null
  return (function* () {
    for (const [i, one] of all.entries()) yield* within(one, i / all.length, (i + 1) / all.length)
  })()
}
