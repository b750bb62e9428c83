'use client'
import { AlertTriangle, Check } from 'lucide-react'
import { kindOf, symbologyOf } from '@/core/kinds/registry'
import { kindData } from '@/core/map/layer-plan'
import { usePlan } from './plans'
import type { Layer, MapSpec } from '@/core/map/spec'
import { kindsFor } from '@/core/map/first-map'
import { entryOf, keepsAreas } from '@/core/projection/catalogue'
import { makeEqualArea } from './projection-picker'
import type { Prepared } from '@/core/data/prepare'
import { ChoiceList, Popover } from '../kit/popover'
import { editLayer } from './edit-map'
import { kindUi } from './kinds/registry'
import { YearWord } from './years'

const wordClass =
  'border-b-2 border-primary/50 px-0.5 font-semibold hover:bg-tint data-[state=open]:bg-tint data-[state=open]:text-primary'

/** What the layer shows, in one sentence; each underlined word is a control. */
export function MapSentence({
  map,
  layer,
  prepared,
  all,
}: {
  map: MapSpec
  layer: Layer
  prepared: Prepared
  all: Map<string, Prepared>
}) {
  const kind = kindOf(layer.symbology.kind)
  const data = kindData(prepared)
  const parts = kind.sentence(layer.symbology.settings, data)
  const planned = usePlan(layer, prepared)
  const caution =
    planned && kind.caution(planned.plan, planned.layer.symbology.settings, kindData(planned.prepared))
  const { Picker } = kindUi[layer.symbology.kind]
  const distorted =
    kind.comparesAreas && prepared.dataset.geometry.kind === 'areas' && !keepsAreas(map.projection)
  const long = distorted || parts.reduce((sum, { text }) => sum + text.length, 0) > 105
  return (
    <div className="flex min-h-[52px] shrink-0 items-center justify-between gap-4 border-b border-line bg-base-100 px-4">
      <p
        className={`font-serif ${long ? 'py-1 text-[16px] leading-7' : 'text-[18px] leading-8'}`}
        aria-label={parts.map((part) => part.text).join('')}
      >
        {parts.map((part, i) => {
          if (part.control === undefined) return <span key={i}>{part.text}</span>
          if (part.control === 'year')
            return (
              <YearWord key={i} layer={layer} prepared={prepared} className={wordClass}>
                {part.text}
              </YearWord>
            )
          return (
            <Popover
              key={i}
              label={`Choose ${part.control}`}
              trigger={
                <button type="button" className={wordClass}>
                  {part.text}
                </button>
              }
            >
              {(close) => (
                <>
                  {part.control === 'dataset' && <DatasetPicker layer={layer} all={all} close={close} />}
                  {planned && part.control && part.control !== 'dataset' && (
                    <Picker
                      control={part.control}
                      layer={layer}
                      prepared={prepared}
                      plan={planned.plan}
                      close={close}
                    />
                  )}
                </>
              )}
            </Popover>
          )
        })}
      </p>
      {distorted && (
        <span className="flex shrink-0 items-center gap-1.5 rounded bg-caution-tint px-2 py-1 text-xs text-caution">
          <AlertTriangle size={14} aria-hidden /> {entryOf(map.projection).label} does not keep areas.
          <button
            type="button"
            className="rounded border border-current px-1.5 font-semibold hover:bg-base-100"
            onClick={() => makeEqualArea(map, all)}
          >
            keep them
          </button>
        </span>
      )}
      {kind.thematic && (caution || !distorted) && (
        <span
          className={`flex shrink-0 items-center gap-1.5 rounded px-2 py-1 text-xs ${caution ? 'bg-caution-tint text-caution' : 'bg-good-tint text-good'}`}
        >
          {caution ? <AlertTriangle size={14} aria-hidden /> : <Check size={14} aria-hidden />}
          {caution?.words ?? kind.fits}
          {caution?.remedies.map(({ label, settings }) => (
            <button
              key={label}
              type="button"
              className="ml-1 rounded border border-current px-1.5 font-semibold hover:bg-base-100"
              onClick={() =>
                editLayer(
                  layer.id,
                  `Divide: ${label}`,
                  (draft) => void (draft.symbology = symbologyOf(draft.symbology.kind, settings)),
                )
              }
            >
              {label}
            </button>
          ))}
        </span>
      )}
    </div>
  )
}

/** Other datasets that the same kind can show. */
function DatasetPicker({
  layer,
  all,
  close,
}: {
  layer: Layer
  all: Map<string, Prepared>
  close: () => void
}) {
  const fitting = [...all.values()].filter((prepared) => kindsFor(prepared).includes(layer.symbology.kind))
  return (
    <ChoiceList
      value={layer.datasetId}
      options={fitting.map(({ entry }) => ({ value: entry.id, label: entry.name }))}
      onPick={(id) => {
        const prepared = all.get(id)
        if (prepared)
          editLayer(layer.id, `Show ${prepared.entry.name}`, (draft) => {
            draft.datasetId = id
            const { kind, settings } = layer.symbology
            draft.symbology = symbologyOf(kind, kindOf(kind).remap(settings, kindData(prepared)))
          })
        close()
      }}
    />
  )
}
