'use client'
import { Download, FileImage, FileText, Trash2, X } from 'lucide-react'
import { useCallback, useEffect, useState } from 'react'
import { initialPrint, isBitmap, leastDpi, mostDpi, printWords } from '@/core/print/settings'
import { bitmapRefused, bitmapSize } from '@/core/print/bitmap-size'
import { unplacedWords } from '@/core/sheet/georeference'
import type { Sheet } from '@/core/sheet/spec'
import { ask } from '@/workers/client'
import type { PrintCard } from '@/server/prints'
import { Button, Check, ColumnHead, IconButton, Row, Section, Segments, Select } from '../kit/controls'
import { NumberField } from '../kit/number-field'
import { api, ApiProblem, followJob } from '../shell/api'
import { saved } from '../shell/autosave'
import { useSheetDrawn } from '../shell/contents'
import { folioNow, useDocument, useFolio } from '../shell/folio-store'
import { whenWords } from '../shell/time'

type Running = {
  id: number
  title: string
  share: number
  doing: string
  problem: string | null
  abort: AbortController
}

/** The names of the panels of which a file cannot say where they lie on the ground. */
function useUnplaced(sheet: Sheet): string[] {
  const drawn = useSheetDrawn(sheet)
  const [names, setNames] = useState<string[]>([])
  useEffect(() => {
    let here = true
    ask(folioNow(), (worker) => worker.unplaced(sheet.id)).then(
      (found) => here && setNames(found),
      () => undefined,
    )
    return () => void (here = false)
  }, [drawn, sheet.id])
  return names
}

type What = { value: string; label: string; parts: string[] }

/** What of a sheet can be exported: all of it, what is chosen on it, or one of its panels. */
function whatOptions({ parts }: Sheet, chosen: readonly string[]): What[] {
  const shown = parts.filter(({ hidden }) => !hidden)
  const marked = shown.filter(({ id }) => chosen.includes(id))
  const panels = shown.filter(({ type }) => type === 'panel')
  return [
    { value: 'sheet', label: 'The whole sheet', parts: [] },
    ...(marked.length
      ? [
          {
            value: 'chosen',
            label: marked.length === 1 ? `“${marked[0].name}”, chosen` : `The ${marked.length} chosen parts`,
            parts: marked.map(({ id }) => id),
          },
        ]
      : []),
    ...panels.map(({ id, name }) => ({ value: id, label: `“${name}” alone`, parts: [id] })),
  ]
}

/** What the file is to be, the button that makes it, and every print made so far. */
export function ExportTicket({ sheet }: { sheet: Sheet }) {
  const { id: folioId } = useDocument()
  const revision = useFolio((state) => state.revision)
  const [ticket, setTicket] = useState(initialPrint)
  const [what, setWhat] = useState('sheet')
  const chosen = useFolio(({ selection }) => selection.partIds)
  const whats = whatOptions(sheet, chosen)
  // What was chosen may be gone by now, or another sheet may be looked at.
  const { parts } = whats.find(({ value }) => value === what) ?? whats[0]
  const settings = { ...ticket, parts }
  const unplaced = useUnplaced(sheet)
  const [prints, setPrints] = useState<PrintCard[]>([])
  const [running, setRunning] = useState<Running[]>([])
  const refresh = useCallback(
    () => api<PrintCard[]>('GET', `/api/folios/${folioId}/prints`).then(setPrints, () => undefined),
    [folioId],
  )
  useEffect(() => void refresh(), [refresh])

  const print = async () => {
    const job: Running = {
      id: Date.now(),
      title: `${sheet.name} · ${printWords(settings)}`,
      share: 0,
      doing: 'Saving the folio',
      problem: null,
      abort: new AbortController(),
    }
    const update = (change: Partial<Running>) =>
      setRunning((all) => all.map((r) => (r.id === job.id ? { ...r, ...change } : r)))
    setRunning((all) => [job, ...all])
    try {
      if (!(await saved()))
        throw new ApiProblem(
          0,
          'The folio is not saved',
          'Prints are made from the saved folio. Settle the saving first.',
          {},
        )
      const { jobId } = await api<{ jobId: string }>('POST', `/api/folios/${folioId}/prints`, {
        ...settings,
        sheetId: sheet.id,
      })
      await followJob<PrintCard>(jobId, (share, doing) => update({ share, doing }), job.abort.signal)
      setRunning((all) => all.filter((r) => r.id !== job.id))
      await refresh()
    } catch (error) {
      if (error instanceof DOMException) setRunning((all) => all.filter((r) => r.id !== job.id))
      else update({ problem: error instanceof Error ? error.message : String(error) })
    }
  }
  const beyond = ticket.format === 'pdf' && ticket.bleed ? 2 * sheet.bleedMm : 0
  const { widthPx, heightPx } = bitmapSize(sheet.page, ticket.dpi)
  const pixels = `${widthPx.toLocaleString('en-GB')} × ${heightPx.toLocaleString('en-GB')} pixels`
  const refused = parts.length ? null : bitmapRefused(sheet.page, ticket)
  return (
    <>
      <ColumnHead title="Export">
        <span className="text-xs text-muted">{sheet.name}</span>
      </ColumnHead>
      <Section title="File">
        {whats.length > 1 && (
          <Row label="What">
            <Select
              label="What is exported"
              value={whats.some(({ value }) => value === what) ? what : 'sheet'}
              options={whats}
              onChange={setWhat}
            />
          </Row>
        )}
        <Segments
          label="Format"
          value={ticket.format}
          options={[
            { value: 'pdf', label: 'PDF' },
            { value: 'svg', label: 'SVG' },
            { value: 'png', label: 'PNG' },
            { value: 'jpeg', label: 'JPEG' },
            { value: 'tiff', label: 'TIFF' },
          ]}
          onChange={(format) => setTicket({ ...ticket, format })}
        />
        {isBitmap(ticket.format) && (
          <Row label="Resolution">
            <NumberField
              label="Resolution"
              value={ticket.dpi}
              unit="dpi"
              min={leastDpi}
              max={mostDpi}
              step={50}
              decimals={0}
              onChange={(dpi) => setTicket({ ...ticket, dpi: Math.round(dpi) })}
            />
          </Row>
        )}
        {ticket.format === 'jpeg' && (
          <Row label="Quality">
            <NumberField
              label="Quality"
              value={ticket.quality}
              unit="%"
              min={10}
              max={100}
              step={5}
              decimals={0}
              onChange={(quality) => setTicket({ ...ticket, quality: Math.round(quality) })}
            />
          </Row>
        )}
        {ticket.format === 'svg' && (
          <Row label="Text">
            <div className="flex-1">
              <Segments
                label="Text"
                value={ticket.svgText}
                options={[
                  { value: 'embedded', label: 'Stays text' },
                  { value: 'outlines', label: 'Outlines' },
                ]}
                onChange={(svgText) => setTicket({ ...ticket, svgText })}
              />
            </div>
          </Row>
        )}
        {ticket.format === 'pdf' && (
          <>
            <Check
              label="Says where its maps lie on the ground"
              checked={ticket.georeference}
              onChange={(georeference) => setTicket({ ...ticket, georeference })}
            />
            {ticket.georeference && unplaced.length > 0 && (
              <p className="text-xs text-caution" role="status">
                {unplacedWords(unplaced)}
              </p>
            )}
            {sheet.bleedMm > 0 && !parts.length && (
              <Check
                label={`With the bleed of ${sheet.bleedMm} mm`}
                checked={ticket.bleed}
                onChange={(bleed) => setTicket({ ...ticket, bleed })}
              />
            )}
          </>
        )}
        <p className="text-xs text-muted">
          {ticket.format === 'pdf' &&
            'Vector shapes, real text in embedded fonts, a layer for each part and map layer.'}
          {ticket.format === 'svg' &&
            (ticket.svgText === 'embedded'
              ? 'Named groups; text stays text, its fonts travel inside the file.'
              : 'Named groups; every letter is a shape.')}
          {isBitmap(ticket.format) && !parts.length && !refused && pixels}
        </p>
        {refused && (
          <p role="alert" className="text-xs text-error">
            {refused}
          </p>
        )}
        <Button look="primary" className="mt-1 !h-9" disabled={!!refused} onClick={() => void print()}>
          <Download size={15} /> Export {ticket.format.toUpperCase()}
        </Button>
        <p className="text-center text-xs text-muted">
          {parts.length
            ? 'On a page as large as it is'
            : `${sheet.page.widthMm + beyond} × ${sheet.page.heightMm + beyond} mm`}
        </p>
      </Section>
      <ColumnHead title="Prints" />
      <ul aria-label="Prints">
        {running.map((job) => (
          <li
            key={job.id}
            className="flex items-center gap-2.5 border-b border-line px-3 py-2"
            role={job.problem ? 'alert' : 'status'}
          >
            {!job.problem && <span className="loading loading-spinner loading-xs" aria-hidden />}
            <span className="min-w-0 flex-1">
              <span className="block truncate">{job.title}</span>
              {job.problem ? (
                <span className="block text-xs text-error">{job.problem}</span>
              ) : (
                <>
                  <span className="block truncate text-xs text-muted">{job.doing}</span>
                  <progress
                    className="progress progress-primary block h-1 w-full"
                    value={job.share}
                    max={1}
                    aria-label={job.doing}
                  />
                </>
              )}
            </span>
            <IconButton
              label={job.problem ? 'Put aside' : 'Cancel this print'}
              onClick={() => {
                job.abort.abort()
                if (job.problem) setRunning((all) => all.filter((r) => r.id !== job.id))
              }}
            >
              <X size={15} />
            </IconButton>
          </li>
        ))}
        {prints.map((card) => (
          <li key={card.id} className="flex items-center gap-2.5 border-b border-line px-3 py-2">
            {isBitmap(card.settings.format) ? (
              <FileImage size={15} aria-hidden className="shrink-0" />
            ) : (
              <FileText size={15} aria-hidden className="shrink-0" />
            )}
            <span className="min-w-0 flex-1">
              <span className="block truncate">
                {card.sheetName} · {printWords(card.settings)}
              </span>
              <span className="block text-xs text-muted">
                {whenWords(card.madeAt)} · {sizeWords(card.bytes)} · revision {card.revision}
                {card.revision === revision && ' (now)'}
              </span>
            </span>
            <IconButton
              label={`Delete the print ${card.fileName}`}
              onClick={() => void api('DELETE', `/api/prints/${card.id}`).then(refresh)}
            >
              <Trash2 size={14} />
            </IconButton>
            <a
              href={`/api/prints/${card.id}`}
              download={card.fileName}
              aria-label={`Download ${card.fileName}`}
              title={`Download ${card.fileName}`}
              className="inline-flex size-7 items-center justify-center rounded hover:bg-base-200"
            >
              <Download size={15} />
            </a>
          </li>
        ))}
        {!running.length && !prints.length && (
          <li className="px-3 py-3 text-xs text-muted">
            No prints yet. Each one is kept here with its settings.
          </li>
        )}
      </ul>
    </>
  )
}

const sizeWords = (bytes: number): string =>
  bytes >= 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1e3))} kB`
