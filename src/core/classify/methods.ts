import { arithmetic, geometric } from './progressions'
import { boundaryError } from './boundary-error'
import type { BreakMethod } from './break-method'
import { equalArea } from './equal-area'
import { equalInterval } from './equal-interval'
import { headTail } from './head-tail'
import { maximumBreaks } from './maximum-breaks'
import { naturalBreaks } from './natural-breaks'
import { nestedMeans } from './nested-means'
import { quantile } from './quantile'
import { roundedSteps } from './rounded-steps'
import { standardDeviation } from './standard-deviation'

type Method = { label: string; note: string; compute: BreakMethod | null; needs: 'areas' | null }

/**
 * Methods by id, one line each, in the order in which they are offered. `manual` keeps the breaks it is
 * given, `unclassed` has none.
 */
export const methods = {
  'natural-breaks': {
    label: 'natural breaks',
    note: 'least spread within classes',
    compute: naturalBreaks,
    needs: null,
  },
  quantile: { label: 'quantiles', note: 'as many areas in each', compute: quantile, needs: null },
  'equal-interval': { label: 'equal intervals', note: 'equally wide', compute: equalInterval, needs: null },
  'rounded-steps': {
    label: 'rounded steps',
    note: 'at multiples of a round number',
    compute: roundedSteps,
    needs: null,
  },
  'standard-deviation': {
    label: 'standard deviations',
    note: 'about the mean',
    compute: standardDeviation,
    needs: null,
  },
  'nested-means': {
    label: 'nested means',
    note: 'the mean, then the means of its parts',
    compute: nestedMeans,
    needs: null,
  },
  'head-tail': {
    label: 'head and tail',
    note: 'for few large among many small',
    compute: headTail,
    needs: null,
  },
  geometric: {
    label: 'a geometric progression',
    note: 'each limit a multiple of the one before',
    compute: geometric,
    needs: null,
  },
  arithmetic: {
    label: 'an arithmetic progression',
    note: 'each class wider by the same amount',
    compute: arithmetic,
    needs: null,
  },
  'maximum-breaks': {
    label: 'maximum breaks',
    note: 'in the widest gaps',
    compute: maximumBreaks,
    needs: null,
  },
  'equal-area': { label: 'equal area', note: 'as much ground in each', compute: equalArea, needs: 'areas' },
  'boundary-error': {
    label: 'least boundary error',
    note: 'borders of classes where neighbours differ most',
    compute: boundaryError,
    needs: 'areas',
  },
  manual: { label: 'breaks set by hand', note: 'drag or type them', compute: null, needs: null },
} as const satisfies Record<string, Method>

export type MethodId = keyof typeof methods
export const methodIds = Object.keys(methods) as MethodId[]
export const methodOf = (id: MethodId): Method => methods[id]
/** Methods that reckon their breaks. */
export const computedIds = methodIds.filter((id) => methods[id].compute !== null)
