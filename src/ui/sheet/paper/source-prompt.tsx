'use client'
import { Pencil } from 'lucide-react'
import { boundsOf } from '@/core/sheet/frame'
import { drawnLayers } from '@/core/map/drawn'
import { panelsOf, panelView } from '@/core/sheet/panel-view'
import { wordsOfPart } from '@/core/sheet/words'
import type { Sheet } from '@/core/sheet/spec'
import { Popover } from '../../kit/popover'
import { TextField } from '../../kit/text-field'
import { Row } from '../../kit/controls'
import { usePrepared } from '../../shell/contents'
import { editFolio, useDocument } from '../../shell/folio-store'
import { useFrameOf } from '../frames'

/**
 * Where a sheet has a place for its source and the data shown have none: a note beside it on the desk, which never
 * prints, to type it. What is typed belongs to the dataset, and stands wherever that is shown.
 */
export function SourcePrompt({ sheet, scale }: { sheet: Sheet; scale: number }) {
  const datasets = usePrepared()
  const { maps } = useDocument()
  const frameOf = useFrameOf()
  const part = sheet.parts.find((one) => !one.hidden && wordsOfPart(one).includes('{{credits}}'))
  if (!part) return null
  const shown = panelsOf(sheet).flatMap((panel) => {
    const view = panelView(panel, sheet, { maps, datasets })
    return view ? drawnLayers(view.map, view.view, datasets) : []
  })
  const entries = [...new Map(shown.map(({ prepared: { entry } }) => [entry.id, entry])).values()]
  if (!entries.length || entries.some(({ credit }) => credit)) return null
  // Beneath the note: above it lies the map, often with its legend in that corner.
  const [x0, , , y1] = boundsOf(frameOf(part))
  return (
    <span data-inside className="absolute" style={{ left: x0 * scale, top: y1 * scale + 2 }}>
      <Popover
        label="Source of the data"
        side="top"
        trigger={
          <button
            type="button"
            className="flex items-center gap-1 border border-dashed border-primary bg-base-100/90 px-1.5 py-0.5 text-xs text-primary"
          >
            <Pencil size={11} aria-hidden /> Type the source
          </button>
        }
      >
        <div className="w-80">
          {entries.map(({ id, name, credit }) => (
            <Row key={id} label={name}>
              <TextField
                label={`Credit line of ${name}`}
                value={credit}
                onChange={(next) =>
                  editFolio('Credit line', (draft) => {
                    const entry = draft.datasets.find((one) => one.id === id)
                    if (entry) entry.credit = next
                  })
                }
              />
            </Row>
          ))}
        </div>
      </Popover>
    </span>
  )
}
