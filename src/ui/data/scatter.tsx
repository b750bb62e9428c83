'use client'
import {
  Chart,
  LinearScale,
  LineController,
  LogarithmicScale,
  PointElement,
  ScatterController,
  Tooltip,
} from 'chart.js'
import { useEffect, useRef, useState } from 'react'
import { formatNumber } from '@/core/classify/labels'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { rowName } from '@/core/data/row-names'
import { correlation } from '@/core/data/summary'
import { Row, Select } from '../kit/controls'

Chart.register(LinearScale, LogarithmicScale, LineController, PointElement, ScatterController, Tooltip)

/** More dots than these hide each other; every n-th then stands for the rest. */
const mostDots = 4000

/** A field against another one, with Pearson's correlation. */
export function Scatter({ prepared, field }: { prepared: Prepared; field: string }) {
  const [other, setOther] = useState('')
  const canvas = useRef<HTMLCanvasElement>(null)
  const choices = prepared.dataset.fields
    .filter(({ key, column }) => column.kind === 'number' && key !== field)
    .map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label }))
  const [x, y] = [fieldOf(prepared.dataset, other), fieldOf(prepared.dataset, field)]
  const r = x && y ? correlation(numbersOf(x), numbersOf(y)) : NaN
  useEffect(() => {
    if (!canvas.current || !x || !y) return
    const style = getComputedStyle(document.documentElement)
    const [xs, ys] = [numbersOf(x), numbersOf(y)]
    const step = Math.ceil(xs.length / mostDots)
    const rows = [...xs.keys()].filter(
      (i) => i % step === 0 && Number.isFinite(xs[i]) && Number.isFinite(ys[i]),
    )
    const grid = { color: style.getPropertyValue('--line') }
    const ticks = { color: style.getPropertyValue('--muted'), maxTicksLimit: 4, font: { size: 10 } }
    const chart = new Chart(canvas.current, {
      type: 'scatter',
      data: {
        datasets: [
          {
            data: rows.map((i) => ({ x: xs[i], y: ys[i] })),
            pointRadius: 2,
            backgroundColor: style.getPropertyValue('--muted'),
          },
        ],
      },
      options: {
        animation: false,
        aspectRatio: 1.35,
        plugins: { tooltip: { callbacks: { label: ({ dataIndex }) => rowName(prepared, rows[dataIndex]) } } },
        scales: { x: { grid, ticks }, y: { grid, ticks } },
      },
    })
    return () => chart.destroy()
  }, [x, y, prepared])
  if (!choices.length) return null
  return (
    <div className="mt-2">
      <Row label="Against">
        <Select
          label="Against another field"
          value={other}
          options={[{ value: '', label: 'no other field' }, ...choices]}
          onChange={setOther}
        />
      </Row>
      {x && (
        <>
          <canvas
            ref={canvas}
            role="img"
            aria-label={`${prepared.fieldMeta(field).label} against ${prepared.fieldMeta(other).label}`}
          />
          <p className="text-xs text-muted">
            {Number.isNaN(r)
              ? 'Too few values for a correlation.'
              : `Correlation ${formatNumber(r, 2)}: ${words(r)}.`}
          </p>
        </>
      )}
    </div>
  )
}

const words = (r: number): string => {
  const size = Math.abs(r)
  if (size < 0.1) return 'the two hardly go together'
  const how = ['weakly', 'fairly', 'closely'][[0.3, 0.6].filter((limit) => size >= limit).length]
  return `${how}, high values go with ${r > 0 ? 'high' : 'low'} ones`
}
