'use client'
import { plainLabels, type LabelSettings } from '@/core/labels/spec'
import type { PeakLook, SurfaceLook } from '@/core/kinds/surfaces/look'
import type { Layer } from '@/core/map/spec'
import { Check, Row, Section, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { usePrepared } from '../../shell/contents'
import { editLayer } from '../edit-map'

/** What labels of peaks say unless somebody wants it otherwise: the name of a place, if one gives it, and the value. */
const peakText = (isNamed: boolean): LabelSettings['text'] =>
  isNamed ? { by: 'formula', formula: 'concat(place, "\\n", peak)' } : { by: 'field', field: 'peak' }

type Names = NonNullable<PeakLook['names']>

/** Datasets with names that peaks may bear, those of points first. */
function useNames(own: string): { names: Names; label: string }[] {
  return [...usePrepared()]
    .flatMap(([datasetId, { dataset, entry, fieldMeta }]) => {
      const field = dataset.fields.find(({ key }) => fieldMeta(key).role === 'name')?.key
      const { kind } = dataset.geometry
      if (field === undefined || kind === 'none') return []
      return [
        {
          names: { datasetId, field },
          label: entry.name,
          rank: kind === 'points' && datasetId !== own ? 0 : 1,
        },
      ]
    })
    .sort((a, b) => a.rank - b.rank)
}

/** The highest places of a surface: how many, how far they stand out, whose names they take. */
export function PeakSection({ peaks, layer }: { peaks: SurfaceLook['peaks']; layer: Layer }) {
  const named = useNames(layer.datasetId)
  const change = (
    name: string,
    look: PeakLook | null,
    {
      merge,
      labelled = (now) => now,
    }: { merge?: string; labelled?: (now: Layer['labels']) => Layer['labels'] } = {},
  ) =>
    editLayer(
      layer.id,
      name,
      (draft) => {
        const settings = draft.symbology.settings as SurfaceLook
        settings.peaks = look
        draft.labels = labelled(draft.labels as Layer['labels'])
      },
      merge,
    )
  const toggle = (on: boolean) =>
    change(
      on ? 'Name the peaks' : 'No peaks',
      on ? { most: 5, atLeast: 0.05, names: named.at(0)?.names ?? null, markMm: 1.4 } : null,
      { labelled: () => (on ? plainLabels('peak', 'points', { text: peakText(named.length > 0) }) : null) },
    )
  return (
    <Section title="Peaks" aside={<Check label="Named" checked={peaks !== null} onChange={toggle} />}>
      {peaks && (
        <>
          <Row label="At most">
            <NumberField
              label="Peaks at most"
              value={peaks.most}
              min={1}
              max={50}
              step={1}
              decimals={0}
              onChange={(n) =>
                change('Number of peaks', { ...peaks, most: Math.round(n) }, { merge: 'peaks' })
              }
            />
          </Row>
          <Row label="Mark">
            <NumberField
              label="Size of their marks"
              value={peaks.markMm}
              unit="mm"
              min={0}
              max={10}
              step={0.1}
              onChange={(mm) => change('Size of marks', { ...peaks, markMm: mm }, { merge: 'peak marks' })}
            />
          </Row>
          <Row label="Stand out">
            <NumberField
              label="How far a peak stands out, of the range of values"
              value={100 * peaks.atLeast}
              unit="% of range"
              min={0}
              max={100}
              step={1}
              onChange={(share) =>
                change('How far peaks stand out', { ...peaks, atLeast: share / 100 }, { merge: 'peaks out' })
              }
            />
          </Row>
          <Row label="Named after">
            <Select
              label="What names the peaks"
              value={peaks.names?.datasetId ?? ''}
              options={[
                { value: '', label: 'nothing' },
                ...named.map(({ names, label }) => ({ value: names.datasetId, label })),
              ]}
              onChange={(id) => {
                const names = named.find((one) => one.names.datasetId === id)?.names ?? null
                change(
                  'Names of peaks',
                  { ...peaks, names },
                  { labelled: (now) => reworded(now, peaks, names) },
                )
              }}
            />
          </Row>
        </>
      )}
    </Section>
  )
}

/** Labels that said what is usual say what is usual now; words of one's own stay. */
function reworded(labels: Layer['labels'], before: PeakLook, names: PeakLook['names']): Layer['labels'] {
  const usual = JSON.stringify(labels?.text) === JSON.stringify(peakText(before.names !== null))
  return labels && usual ? { ...labels, text: peakText(names !== null) } : labels
}
