'use client'
import { Download, Trash2 } from 'lucide-react'
import type { DatasetEntry } from '@/core/data/entry'
import { layerNeeds } from '@/core/map/layer-plan'
import type { Prepared } from '@/core/data/prepare'
import { stepNeeds } from '@/core/data/steps/registry'
import { IconButton, Row } from '../kit/controls'
import { Popover } from '../kit/popover'
import { TextField } from '../kit/text-field'
import { saved } from '../shell/autosave'
import { editFolio, useDocument, useFolio } from '../shell/folio-store'
import { SaveDataset } from './save-dataset'

const aboutFields = [
  { key: 'credit', label: 'Credit line', placeholder: 'credit line, for the sheet' },
  { key: 'licence', label: 'Licence', placeholder: 'licence' },
  { key: 'dated', label: 'Date', placeholder: 'date of the data' },
  { key: 'link', label: 'Link', placeholder: 'where it comes from' },
] as const

/** What a dataset is called and where it comes from; saving it as a file; taking it out of the folio. */
export function DatasetForm({ prepared: { entry, dataset } }: { prepared: Prepared }) {
  const folio = useDocument()
  const change = (name: string, recipe: (entry: DatasetEntry) => void) =>
    editFolio(name, (draft) => {
      const dataset = draft.datasets.find((d) => d.id === entry.id)
      if (dataset) recipe(dataset as DatasetEntry)
    })
  const used =
    folio.maps.some(
      (map) =>
        map.land?.datasetId === entry.id || map.layers.some((layer) => layerNeeds(layer).includes(entry.id)),
    ) ||
    folio.datasets.some(
      (d) => d.id !== entry.id && d.steps.some((step) => stepNeeds(step).includes(entry.id)),
    )
  return (
    <section className="mt-auto border-t border-line px-3 py-2.5" aria-label="Dataset">
      <div className="mb-1 flex items-center justify-between">
        <h3 className="font-semibold">Dataset</h3>
        <span className="flex">
          <Popover
            label="Save as a file"
            align="end"
            side="top"
            className="w-64"
            trigger={
              <IconButton label={`Save ${entry.name} as a file`} className="!size-6">
                <Download size={14} />
              </IconButton>
            }
          >
            <SaveDataset
              folioId={folio.id}
              entry={entry}
              hasShapes={dataset.geometry.kind !== 'none'}
              isRaster={dataset.raster !== undefined}
              onBefore={saved}
            />
          </Popover>
          <IconButton
            label={used ? 'In use by a map or a step' : 'Take out of the folio'}
            className="!size-6"
            disabled={used}
            onClick={() => {
              editFolio(
                `Delete ${entry.name}`,
                (draft) => void (draft.datasets = draft.datasets.filter((d) => d.id !== entry.id)),
              )
              useFolio
                .getState()
                .select({ datasetId: useFolio.getState().history.folio.datasets[0]?.id ?? null })
              useFolio.getState().tell(`“${entry.name}” was taken out of the folio.`, true)
            }}
          >
            <Trash2 size={14} />
          </IconButton>
        </span>
      </div>
      <div className="flex flex-col gap-1">
        <Row label="Name">
          <TextField
            label="Name of the dataset"
            value={entry.name}
            onChange={(name) => change('Rename dataset', (d) => void (d.name = name))}
          />
        </Row>
        {aboutFields.map(({ key, label, placeholder }) => (
          <Row key={key} label={label}>
            <TextField
              label={label}
              placeholder={placeholder}
              value={entry[key]}
              allowEmpty
              onChange={(value) => change(`Change ${label.toLowerCase()}`, (d) => void (d[key] = value))}
            />
          </Row>
        ))}
        <p className="text-xs text-muted">
          {entry.source.format} from {entry.source.fileName}
        </p>
      </div>
    </section>
  )
}
