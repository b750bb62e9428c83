'use client'
import { BarChart3, Minus, Plus, ScatterChart, Spline, type LucideIcon } from 'lucide-react'
import { Button, IconButton } from '../../kit/controls'
import { benchShapes, useBenchView, type BenchView } from './view'

const shapeWords: Record<BenchView['shape'], { label: string; Icon: LucideIcon }> = {
  bars: { label: 'Bars', Icon: BarChart3 },
  curve: { label: 'Rising curve', Icon: Spline },
  dots: { label: 'A dot for each', Icon: ScatterChart },
}

/** How the values are shown: bars, a curve or dots, on which axis. */
export function ViewSwitch({ positive, bins }: { positive: boolean; bins: number }) {
  const { view, set } = useBenchView()
  return (
    <span className="flex shrink-0 items-center" role="group" aria-label="How the values are shown">
      {benchShapes.map((shape) => {
        const { label, Icon } = shapeWords[shape]
        return (
          <IconButton
            key={shape}
            label={label}
            aria-pressed={view.shape === shape}
            active={view.shape === shape}
            className="!size-6"
            onClick={() => set({ shape })}
          >
            <Icon size={14} />
          </IconButton>
        )
      })}
      {view.shape === 'bars' && (
        <>
          <IconButton
            label="Fewer bars"
            className="!size-6"
            disabled={(view.bins ?? bins) <= 5}
            onClick={() => set({ bins: Math.max(5, (view.bins ?? bins) - 5) })}
          >
            <Minus size={13} />
          </IconButton>
          <button
            type="button"
            className="w-6 text-center text-xs text-muted"
            aria-label={`${view.bins ?? bins} bars; as many as the rule of Freedman and Diaconis gives`}
            title={
              view.bins === null
                ? 'Bars by the rule of Freedman and Diaconis (1981)'
                : `The rule of Freedman and Diaconis gives ${bins}`
            }
            onClick={() => set({ bins: null })}
          >
            {view.bins ?? bins}
          </button>
          <IconButton
            label="More bars"
            className="!size-6"
            disabled={(view.bins ?? bins) >= 100}
            onClick={() => set({ bins: Math.min(100, (view.bins ?? bins) + 5) })}
          >
            <Plus size={13} />
          </IconButton>
        </>
      )}
      <Button
        look="quiet"
        className={`!h-6 !px-1.5 text-xs ${view.axis === 'log' ? 'text-primary' : ''}`}
        aria-pressed={view.axis === 'log'}
        disabled={!positive}
        title={positive ? 'Logarithmic axis' : 'A logarithmic axis needs values over zero.'}
        onClick={() => set({ axis: view.axis === 'log' ? 'linear' : 'log' })}
      >
        log
      </Button>
    </span>
  )
}
