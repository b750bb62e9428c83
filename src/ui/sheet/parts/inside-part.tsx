'use client'
import type { ComponentType } from 'react'
import type { Frame } from '@/core/sheet/frame'
import { readyPart } from '@/core/sheet/ready-part'
import type { Part, Sheet } from '@/core/sheet/spec'
import { useDocument } from '../../shell/folio-store'
import type { InsideProps } from './inside-props'
import { partFaceOf } from './registry'

type Props = {
  sheet: Sheet
  part: Part
  frame: Frame
  scale: number
  onLeave: () => void
  drawn: unknown
}

/** What a double click opens inside a part, turned with it; types without an inside just show their frame. */
export function InsidePart({ part, frame, scale, ...rest }: Props) {
  const { typeStyles } = useDocument()
  const Inside = partFaceOf(part.type).Inside as ComponentType<InsideProps> | undefined
  const { box, rotationDeg } = frame
  const [cos, sin] = [Math.cos((rotationDeg * Math.PI) / 180), Math.sin((rotationDeg * Math.PI) / 180)]
  const unturned = (dx: number, dy: number): [number, number] => [dx * cos + dy * sin, dy * cos - dx * sin]
  return (
    <div
      data-inside
      className="absolute outline-2 outline-[#9c1f5e] outline-dashed"
      style={{
        left: box.x * scale,
        top: box.y * scale,
        width: box.width * scale,
        height: box.height * scale,
        ...(rotationDeg && { transform: `rotate(${rotationDeg}deg)` }),
      }}
    >
      {Inside && (
        <Inside
          {...rest}
          part={readyPart(part, typeStyles) as InsideProps['part']}
          box={box}
          scale={scale}
          unturned={unturned}
        />
      )}
    </div>
  )
}
