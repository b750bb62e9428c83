import { AlertTriangle } from 'lucide-react'
import type { Classing } from '@/core/classify/spec'
import type { Classes } from '@/core/kinds/kind'

/** What is to be known of the classes as they are: what rounding did, empty ones, values in none. */
export function Warnings({
  classing,
  classes,
  values,
}: {
  classing: Classing
  classes: Classes
  values: number
}) {
  const { result } = classes
  const empty = result.counts.filter((count) => count === 0).length
  const { mayMove } = classes
  const aside = result.aside.reduce((a, b) => a + b, 0)
  return (
    <>
      {result.roundingMoved > 0 && (
        <p className="text-xs text-muted">
          Rounding moved {result.roundingMoved.toLocaleString('en-GB')}{' '}
          {classes.pool ? `of all ${classes.pool.values.length.toLocaleString('en-GB')} ` : ''}
          {result.roundingMoved === 1 ? 'value' : 'values'} to another class.
        </p>
      )}
      {result.roundingCost > 0.0005 && (
        <p className="text-xs text-muted">Rounding took {result.roundingCost.toFixed(3)} of the fit.</p>
      )}
      {result.counts.length < result.asked && (
        <p className="text-xs text-caution">{fewerWords(classing.method, result.counts.length)}</p>
      )}
      {result.middle && (result.middle.below === 0 || result.middle.below === result.counts.length) && (
        <p className="text-xs text-caution">All values lie on one side of the middle.</p>
      )}
      {mayMove !== null && mayMove > 0 && (
        <p className="text-xs text-caution">
          {mayMove} could well belong to the next class, given their error.
        </p>
      )}
      {empty > 0 && (
        <p className="flex items-center gap-1 text-xs text-caution">
          <AlertTriangle size={13} className="shrink-0" aria-hidden />{' '}
          {empty === 1 ? 'One class is empty.' : `${empty} classes are empty.`} Fewer classes or another
          method will do.
        </p>
      )}
      {result.outside > 0 ? (
        <p className="text-xs text-error">{result.outside} values fall in no class.</p>
      ) : (
        !empty && (
          <p className="text-xs text-muted">
            {aside
              ? `${values - aside} values are in a class, ${aside} set aside.`
              : `All ${(classes.all?.there ?? values).toLocaleString('en-GB')} values are in a class.`}
          </p>
        )
      )}
    </>
  )
}

/** Why there are fewer classes than were asked for. */
function fewerWords(method: Classing['method'], count: number): string {
  if (method === 'nested-means') return 'Nested means give two, four or eight classes.'
  if (method === 'head-tail') return `The values give ${count} classes by this method.`
  return `There are only ${count} different limits between the values, so there are fewer classes than asked for.`
}
