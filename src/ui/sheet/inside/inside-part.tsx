'use client'
import type { ComponentType } from 'react'
import type { Part, PartTypeId } from '@/core/sheet/spec'
import { InsideLegend } from './inside-legend'
import { InsidePanel } from './inside-panel'
import type { InsideProps } from './inside-props'
import { InsideText } from './inside-text'

/** What a double click opens inside a part; types without an inside just show their frame. */
const insides: { [T in PartTypeId]?: ComponentType<InsideProps<T>> } = {
  panel: InsidePanel,
  text: InsideText,
  legend: InsideLegend,
}

export function InsidePart(props: Omit<InsideProps, 'part'> & { part: Part }) {
  const Inside = insides[props.part.type] as ComponentType<typeof props> | undefined
  const { box, scale } = props
  return (
    <div
      data-inside
      className="absolute outline-2 outline-[#9c1f5e] outline-dashed"
      style={{
        left: box.x * scale,
        top: box.y * scale,
        width: box.width * scale,
        height: box.height * scale,
      }}
    >
      {Inside && <Inside {...props} />}
    </div>
  )
}
