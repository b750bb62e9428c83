'use client'
import { Chart, LinearScale, LineController, LineElement, PointElement, ScatterController } from 'chart.js'
import { useEffect, useRef } from 'react'
import { semivariance } from '@/core/grid/interpolate/kriging'
import type { VariogramView } from '@/core/kinds/interpolated/judge'

Chart.register(LinearScale, LineController, LineElement, PointElement, ScatterController)

/** Half the mean squared difference of samples by their distance, and the model through it. */
export function VariogramChart({ view: { bins, used } }: { view: VariogramView }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    if (!canvas.current) return
    const style = getComputedStyle(document.documentElement)
    const far = bins.at(-1)?.distance ?? 1
    const grid = { color: style.getPropertyValue('--line') }
    const ticks = { color: style.getPropertyValue('--muted'), maxTicksLimit: 4, font: { size: 10 } }
    const title = (text: string) => ({
      display: true,
      text,
      color: style.getPropertyValue('--muted'),
      font: { size: 10 },
    })
    const chart = new Chart(canvas.current, {
      type: 'scatter',
      data: {
        datasets: [
          {
            data: bins.map(({ distance, value }) => ({ x: distance / 1000, y: value })),
            pointRadius: 3,
            backgroundColor: style.getPropertyValue('--muted'),
          },
          {
            type: 'line' as never,
            data: Array.from({ length: 60 }, (_, i) => {
              const distance = ((i + 0.01) / 59) * far
              return { x: distance / 1000, y: semivariance(used, distance) }
            }),
            pointRadius: 0,
            borderWidth: 2,
            borderColor: '#9c1f5e',
          },
        ],
      },
      options: {
        animation: false,
        aspectRatio: 1.6,
        plugins: { legend: { display: false } },
        scales: {
          x: { grid, ticks, title: title('distance, km') },
          y: { grid, ticks, min: 0, title: title('semivariance') },
        },
      },
    })
    return () => chart.destroy()
  }, [bins, used])
  return <canvas ref={canvas} role="img" aria-label="Variogram: semivariance by distance, with its model" />
}
