'use client'
import { useState } from 'react'
import type { DatasetEntry } from '@/core/data/entry'
import { exportFormatIds, savedAs, type ExportFormat } from '@/formats/list'
import { Button, Row, Select } from '../kit/controls'
import { fetchWritten, LongWorkLine, useLongWork } from '../shell/long-work'
import { SystemPicker } from './system-picker'

/** Saves a prepared dataset as a file. */
export function SaveDataset({
  folioId,
  entry,
  hasShapes,
  isRaster,
  onBefore,
}: {
  folioId: string
  entry: DatasetEntry
  hasShapes: boolean
  isRaster: boolean
  onBefore: () => Promise<boolean>
}) {
  const [format, setFormat] = useState<ExportFormat>(isRaster ? 'geotiff' : 'gpkg')
  const [names, setNames] = useState<'readable' | 'short'>('readable')
  const [crs, setCrs] = useState('EPSG:4326')
  const [unsaved, setUnsaved] = useState(false)
  const [remarks, setRemarks] = useState<string[]>([])
  const { work, problem, attempt } = useLongWork()
  const formats = exportFormatIds
    .filter((id) => ({ rows: true, shapes: hasShapes, cells: isRaster })[savedAs(id).holds])
    .map((id) => ({ value: id, label: savedAs(id).label }))
  const save = async () => {
    setRemarks([])
    const isSaved = await onBefore()
    setUnsaved(!isSaved)
    if (!isSaved) return
    await attempt(`Saving ${entry.name}`, async (progress) => {
      const path = `/api/folios/${folioId}/datasets/${entry.id}`
      setRemarks(await fetchWritten(path, { format, names, crs }, progress))
    })
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
      <Button disabled={work !== null} onClick={() => void save()}>
        Save as a file
      </Button>
      {work && <LongWorkLine work={work} className="text-xs" />}
      {remarks.map((remark) => (
        <p key={remark} role="status" className="text-xs text-muted">
          {remark}
        </p>
      ))}
      {(unsaved || problem) && (
        <p role="alert" className="text-xs text-error">
          {unsaved ? 'The folio is not saved; settle that first.' : problem}
        </p>
      )}
    </div>
  )
}
