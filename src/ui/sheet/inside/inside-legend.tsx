'use client'
import { useEffect, useState } from 'react'
import { fontFamilies } from '@/core/scene/fonts'
import { pointsToMm } from '@/core/scene/text'
import { scenes, sendFolio } from '@/workers/client'
import type { LegendLinePlace } from '@/workers/scene.worker'
import { TextField } from '../../kit/text-field'
import { useDocument } from '../../shell/folio-store'
import { editPart } from '../edit-sheet'
import { changeWords } from '../parts/legend-form'
import type { InsideProps } from './inside-part'

/** The lines of a legend, each a field where it stands. */
export function InsideLegend({ sheet, part, box, scale, drawn, onLeave }: InsideProps<'legend'>) {
  const folio = useDocument()
  const [lines, setLines] = useState<LegendLinePlace[]>([])
  useEffect(() => {
    let here = true
    void sendFolio(folio).then(() => scenes().legendLines(sheet.id, part.id)).then((found) => here && setLines(found))
    return () => void (here = false)
  }, [folio, sheet.id, part.id, drawn])
  const { heading, label, swatchWidthMm } = part.settings
  const indent = swatchWidthMm + 0.6 * pointsToMm(label.sizePt)
  return (
    <div className="absolute inset-0" onKeyDown={(event) => event.key === 'Escape' && onLeave()}>
      {lines.map((line) => {
        const style = line.isHeading ? heading : label
        const left = line.box.x - box.x + (line.isHeading ? 0 : indent)
        return (
          <div key={line.key} className="absolute" style={{ left: left * scale - 3, top: (line.box.y - box.y) * scale, height: line.box.height * scale, width: Math.max(60, (box.width - left) * scale), fontFamily: `'${fontFamilies[style.family].label}', sans-serif`, fontWeight: style.weight }}>
            <TextField label={`Wording of ${line.proposed}`} value={line.text} className="!h-full !bg-white !px-0.5 !text-black" onChange={(text) => changeWords((name, recipe) => editPart(sheet.id, part.id, name, (p) => p.type === 'legend' && recipe(p.settings)), line.key, line.proposed, text)} />
          </div>
        )
      })}
    </div>
  )
}
