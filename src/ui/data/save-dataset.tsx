'use client'
import { useState } from 'react'
import type { DatasetEntry } from '@/core/data/entry'
import { exportFormatIds, exportFormats, type ExportFormat } from '@/formats/writers/formats'
import { Button, Row, Select } from '../kit/controls'
import { saveFile } from '../kit/save-file'
import { SystemPicker } from './system-picker'

/** Saves a prepared dataset as a file. */
export function SaveDataset({
  folioId,
  entry,
  hasShapes,
  onBefore,
}: {
  folioId: string
  entry: DatasetEntry
  hasShapes: boolean
  onBefore: () => Promise<boolean>
}) {
  const [format, setFormat] = useState<ExportFormat>('gpkg')
  const [names, setNames] = useState<'readable' | 'short'>('readable')
  const [crs, setCrs] = useState('EPSG:4326')
  const [problem, setProblem] = useState<string | null>(null)
  const formats = exportFormatIds
    .filter((id) => hasShapes || !exportFormats[id].shapes)
    .map((id) => ({ value: id, label: exportFormats[id].label }))
  const save = async () => {
    setProblem(null)
    if (!(await onBefore())) return setProblem('The folio is not saved; settle that first.')
    const response = await fetch(
      `/api/folios/${folioId}/datasets/${entry.id}?format=${format}&names=${names}&crs=${encodeURIComponent(crs)}`,
    )
    if (!response.ok)
      return setProblem(
        String(
          ((await response.json().catch(() => ({}))) as { detail?: string }).detail ??
            'It could not be saved.',
        ),
      )
    const name =
      /filename\*=UTF-8''(.+)$/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? 'data'
    saveFile(await response.blob(), decodeURIComponent(name))
  }
  return (
    <div className="flex flex-col gap-1">
      <Row label="As">
        <Select label="File format" value={format} options={formats} onChange={setFormat} />
      </Row>
      <Row label="Field names">
        <Select
          label="Field names"
          value={names}
          options={[
            { value: 'readable', label: 'readable' },
            { value: 'short', label: 'short' },
          ]}
          onChange={setNames}
        />
      </Row>
      {hasShapes && (
        <Row label="System">
          <SystemPicker value={crs} onPick={setCrs} />
        </Row>
      )}
      <Button onClick={() => void save()}>Save as a file</Button>
      {problem && (
        <p role="alert" className="text-xs text-error">
          {problem}
        </p>
      )}
    </div>
  )
}
