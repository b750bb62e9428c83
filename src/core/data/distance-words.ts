import { formatNumber } from '@/core/classify/labels'
import { distanceError } from '@/core/grid/distances'
import type { Lattice } from '@/core/grid/grid'

/** Distances in a plane that are wrong by less than this are not spoken of. */
const worthSaying = 0.01

/** Words on distances that are not those on the ground, for data that lie far apart; empty where they are. */
export function distanceWords(lattice: Lattice): string {
  const error = distanceError(lattice)
  if (error < worthSaying) return ''
  const seam = lattice.plane.id === 'equal-earth' ? ', and none leads over the edge of the world map' : ''
  return `These data lie far apart: distances are wrong by up to ${formatNumber(100 * error, 0)} % somewhere${seam}.`
}
