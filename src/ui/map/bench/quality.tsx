'use client'
import { Info } from 'lucide-react'
import type { Classification } from '@/core/classify/classify'
import type { Judgement } from '@/core/map/ways'
import { IconButton } from '../../kit/controls'
import { Popover } from '../../kit/popover'

/** How well the classes fit, at a glance; every figure with what it means for this map. */
export function QualityFigures({ result, judged }: { result: Classification; judged: Judgement | null }) {
  if (!judged) return <Fit label="Variance fit" share={result.gvf} />
  const { quality } = judged
  const { moran } = quality
  return (
    <div className="flex flex-col gap-1">
      <Fit label="Variance fit" share={result.gvf} />
      {!Number.isNaN(quality.tabular) && <Fit label="Tabular fit" share={quality.tabular} />}
      {quality.boundary !== null && <Fit label="Border fit" share={quality.boundary} />}
      <div className="flex items-center justify-between gap-2 text-xs text-muted">
        <span>
          {quality.smallest.toLocaleString('en-GB')} to {quality.largest.toLocaleString('en-GB')} in a class
          {moran && ` · Moran’s I ${moran.i.toFixed(2)}`}
        </span>
        <Popover
          label="What the figures say"
          align="end"
          side="top"
          className="w-80"
          trigger={
            <IconButton label="What the figures say" className="!size-6">
              <Info size={14} />
            </IconButton>
          }
        >
          <dl className="flex flex-col gap-2 text-xs">
            <Figure
              name="Variance fit"
              value={result.gvf}
              words={`${fitWords(result.gvf)} 1 would be classes without any spread.`}
            />
            {!Number.isNaN(quality.tabular) && (
              <Figure
                name="Tabular fit"
                value={quality.tabular}
                words={`A reader who takes each area for the mean of its class is ${Math.round(100 * quality.tabular)} % nearer the truth than one who takes it for the mean of all.`}
              />
            )}
            {quality.boundary !== null && (
              <Figure
                name="Border fit"
                value={quality.boundary}
                words={
                  quality.boundary >= 0.8
                    ? 'The borders between colours are nearly the sharpest there are.'
                    : 'Some borders between colours part areas that differ little, and sharper ones lie hidden within a class.'
                }
              />
            )}
            {moran && <Figure name="Moran’s I" value={moran.i} words={moranWords(moran)} />}
          </dl>
        </Popover>
      </div>
    </div>
  )
}

export function fitWords(gvf: number): string {
  if (gvf >= 0.9) return 'The classes hold together well.'
  if (gvf >= 0.75) return 'The classes are fair; some hold quite different values.'
  return 'The classes hold very different values.'
}

function moranWords({ i, expected, z }: { i: number; expected: number; z: number }): string {
  const sure = `${Math.abs(z).toFixed(1)} standard errors from what chance gives (${expected.toFixed(2)})`
  if (Math.abs(z) < 2)
    return `Values are strewn about as chance would have it: ${sure}. Do not expect a pattern on the map.`
  return i > expected
    ? `Like lies beside like: ${sure}. The map will show regions.`
    : `Unlike lies beside unlike: ${sure}. The map will look like a patchwork.`
}

function Figure({ name, value, words }: { name: string; value: number; words: string }) {
  return (
    <div>
      <dt className="font-semibold">
        {name} {value.toFixed(3)}
      </dt>
      <dd className="text-muted">{words}</dd>
    </div>
  )
}

function Fit({ label, share }: { label: string; share: number }) {
  return (
    <div className="grid grid-cols-[76px_1fr_34px] items-center gap-2 text-xs">
      <span className="text-muted">{label}</span>
      <span className="h-1.5 overflow-hidden rounded bg-base-300">
        <span className="block h-full bg-neutral" style={{ width: `${Math.max(0, share) * 100}%` }} />
      </span>
      <span className="text-right font-semibold">{share.toFixed(2)}</span>
    </div>
  )
}
