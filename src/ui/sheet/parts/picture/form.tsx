'use client'
import { ImagePlus } from 'lucide-react'
import { useState } from 'react'
import { useDropzone } from 'react-dropzone'
import { effectiveDpi, leastPictureDpi, noCrop, sizeFor } from '@/core/sheet/parts/picture'
import type { PictureEntry } from '@/core/sheet/picture'
import { Button, Row, Section, Segments, Select } from '../../../kit/controls'
import { NumberField } from '../../../kit/number-field'
import { useDocument } from '../../../shell/folio-store'
import { editPart, settingsChanger } from '../../edit-sheet'
import type { FormProps } from '../face'
import { bringInPicture, pictureFiles } from './bring-in'

/** Which picture, how it lies in its frame, and whether it is fine enough for print. */
export function PictureForm({ sheet, part }: FormProps<'picture'>) {
  const { pictureId, fit, crop, cornerMm } = part.settings
  const { pictures } = useDocument()
  const change = settingsChanger(sheet.id, part)
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const entry = pictures.find(({ id }) => id === pictureId)
  /** Another picture; the frame takes on its proportions and keeps its longer side. */
  const show = (next: PictureEntry) =>
    editPart({ sheetId: sheet.id, partId: part.id }, `Show ${next.name}`, (draft) => {
      if (draft.type !== 'picture') return
      const { id, widthPx, heightPx } = next
      Object.assign(draft.settings, { pictureId: id, widthPx, heightPx, crop: { ...noCrop } })
      Object.assign(draft.box, sizeFor(next, Math.max(draft.box.width, draft.box.height)))
    })
  const take = async (file: File | undefined) => {
    if (!file) return
    setBusy(true)
    setProblem(null)
    try {
      show(await bringInPicture(file))
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    } finally {
      setBusy(false)
    }
  }
  const drop = useDropzone({
    accept: pictureFiles,
    multiple: false,
    onDropAccepted: ([file]) => void take(file),
    onDropRejected: () => setProblem('PNG, JPEG, SVG, WebP, TIFF, GIF and AVIF files can be brought in.'),
  })
  const dpi = Math.round(effectiveDpi(part.settings, part.box))
  const isDrawing = entry?.type === 'image/svg+xml'
  const side = (key: keyof typeof crop, label: string) => (
    <NumberField
      label={label}
      value={crop[key] * 100}
      unit="%"
      min={0}
      max={95}
      step={1}
      decimals={1}
      onChange={(n) => change('Crop', (s) => void (s.crop[key] = n / 100), `crop ${key}`)}
    />
  )
  return (
    <Section title="Picture">
      <div
        {...drop.getRootProps()}
        className={`flex cursor-pointer items-center justify-center gap-2 rounded border border-dashed px-2 py-3 text-xs ${drop.isDragActive ? 'border-primary bg-tint' : 'border-line hover:border-muted'}`}
      >
        <input {...drop.getInputProps({ 'aria-label': 'Picture file' })} />
        {busy ? (
          <span className="loading loading-spinner loading-xs" role="status" aria-label="Bringing in" />
        ) : (
          <ImagePlus size={15} aria-hidden />
        )}
        {entry ? 'Another picture: drop it or choose' : 'Drop a picture, or choose one'}
      </div>
      {problem && (
        <p role="alert" className="text-xs text-error">
          {problem}
        </p>
      )}
      {pictures.length > 0 && (
        <Row label="Shows">
          <Select
            label="Picture of the folio"
            value={entry?.id ?? ''}
            options={[
              ...(entry ? [] : [{ value: '', label: 'none yet' }]),
              ...pictures.map(({ id, name }) => ({ value: id, label: name })),
            ]}
            onChange={(id) => {
              const next = pictures.find((one) => one.id === id)
              if (next) show(next)
            }}
          />
        </Row>
      )}
      {entry && (
        <>
          <p
            className={`text-xs ${!isDrawing && dpi < leastPictureDpi ? 'text-warning-content' : 'text-muted'}`}
          >
            {isDrawing
              ? 'A drawing: sharp at any size.'
              : `${entry.widthPx} × ${entry.heightPx} pixels, ${dpi} dpi at this size`}
            {!isDrawing &&
              dpi < leastPictureDpi &&
              `: below ${leastPictureDpi} its pixels are seen in print.`}
          </p>
          <Row label="In its frame">
            <div className="flex-1">
              <Segments
                label="How it lies in its frame"
                value={fit}
                options={[
                  { value: 'whole', label: 'Whole' },
                  { value: 'fill', label: 'Fill' },
                  { value: 'stretch', label: 'Stretch' },
                ]}
                onChange={(next) => change('Picture in its frame', (s) => void (s.fit = next))}
              />
            </div>
          </Row>
          <Row label="Cut left, right">
            {side('left', 'Cut off on the left')}
            {side('right', 'Cut off on the right')}
          </Row>
          <Row label="top, foot">
            {side('top', 'Cut off at the top')}
            {side('bottom', 'Cut off at the foot')}
          </Row>
          <Row label="Corners">
            <NumberField
              label="Radius of the corners"
              value={cornerMm}
              unit="mm"
              min={0}
              max={500}
              onChange={(n) => change('Corners', (s) => void (s.cornerMm = n), 'corners')}
            />
            <Button
              className="flex-1"
              onClick={() =>
                editPart({ sheetId: sheet.id, partId: part.id }, 'Frame as the picture', (draft) => {
                  Object.assign(draft.box, sizeFor(entry, Math.max(draft.box.width, draft.box.height)))
                })
              }
            >
              Frame as picture
            </Button>
          </Row>
        </>
      )}
    </Section>
  )
}
