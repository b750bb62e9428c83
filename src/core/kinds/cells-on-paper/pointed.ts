import type { MapKind, Pointed, PointedAt } from '../kind'

type At<Settings, Plan> = (place: [lon: number, lat: number], of: PointedAt<Settings, Plan>) => Pointed | null

/** The shapes of a kind that makes none and paints cells, of which it is told what lies under the pointer. */
export const pointedCells = <Settings, Plan>(
  at: At<Settings, Plan>,
): NonNullable<MapKind<Settings, Plan, true>['shapes']> => ({
  key: () => '',
  remark: () => '',
  figures: null,
  *make() {
    return true
  },
  onPaper: false,
  ready: null,
  at: (_, place, of) => at(place, of),
  outlined: null,
  rows: null,
  named: null,
  bend: null,
  rough: null,
})
