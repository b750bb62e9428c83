'use client'
import { MoveHorizontal, Sun } from 'lucide-react'
import { useState } from 'react'
import { ask } from '@/workers/client'
import { IconButton } from '../../../kit/controls'
import { folioNow, useFolio } from '../../../shell/folio-store'
import { editingOf, type HandsProps } from '../kind-ui'
import { SunDial } from './sun-dial'

/** Over the map: the light is set by a dial, and tints are stretched from the lowest to the highest land in view. */
export function ReliefHands({ map, layer, view, size }: HandsProps) {
  const [open, setOpen] = useState(false)
  const { s, change } = editingOf('relief', layer)
  const { shading, tints } = s
  const stretch = async () => {
    const range = await ask(folioNow(), (worker) =>
      worker.heightsInView(map, layer.id, view, { widthPx: size.width, heightPx: size.height }),
    )
    if (!range || !(range.high > range.low))
      return useFolio.getState().tell('No heights of this relief are in view.')
    change('Stretch tints to this view', (d) => {
      const stops = d.tints?.stops ?? []
      const heights = stops.map(({ at }) => at)
      const [low, high] = [Math.min(...heights), Math.max(...heights)]
      for (const stop of stops)
        stop.at = Number(
          (range.low + ((stop.at - low) / (high - low || 1)) * (range.high - range.low)).toFixed(1),
        )
    })
  }
  if (!shading && !tints) return null
  return (
    <div data-over-map className="floating absolute top-3 left-3 flex items-center gap-1 p-0.5">
      {shading && (
        <IconButton
          label={open ? 'Put the light away' : 'Set the light on the map'}
          onClick={() => setOpen(!open)}
        >
          <Sun size={16} />
        </IconButton>
      )}
      {tints && (
        <IconButton label="Stretch tints to this view" onClick={() => void stretch()}>
          <MoveHorizontal size={16} />
        </IconButton>
      )}
      {open && shading && (
        <SunDial
          label="Light on the map"
          size={112}
          azimuthDeg={shading.azimuthDeg}
          altitudeDeg={shading.altitudeDeg}
          onChange={(azimuthDeg, altitudeDeg) =>
            change(
              'Move the light',
              (d) => void (d.shading && Object.assign(d.shading, { azimuthDeg, altitudeDeg })),
              'light',
            )
          }
        />
      )}
    </div>
  )
}
