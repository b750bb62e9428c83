'use client'
import { Download, Pencil, Trash2, Upload } from 'lucide-react'
import type { Draft } from 'immer'
import { nanoid } from 'nanoid'
import { useEffect, useRef, useState } from 'react'
import {
  laidOver,
  proposedRoles,
  rolesOf,
  sheetFromTemplate,
  type FromTemplate,
  type SheetTemplate,
} from '@/core/sheet/template'
import { shippedTemplates } from '@/core/sheet/templates'
import type { Folio } from '@/core/folio/schema'
import type { Sheet } from '@/core/sheet/spec'
import { ask } from '@/workers/client'
import { Button, IconButton, Row, Select } from '../../kit/controls'
import { Dialog } from '../../kit/popover'
import { saveFrom } from '../../kit/save-file'
import { TextField } from '../../kit/text-field'
import { usePrepared } from '../../shell/contents'
import { editFolio, folioNow, useDocument, useFolio } from '../../shell/folio-store'
import { useTemplates } from './use-templates'

/** Pictures are drawn so wide, in CSS pixels. */
const pictureWidth = 150

type Props = { open: boolean; onClose: () => void; sheet: Sheet | null }

/** A sheet from a template: which one, and which map takes which role. */
export function TemplateDialog({ open, onClose, sheet }: Props) {
  return (
    <Dialog open={open} onClose={onClose} title="A sheet from a template" wide>
      {open && <Choosing onClose={onClose} sheet={sheet} />}
    </Dialog>
  )
}

function Choosing({ onClose, sheet }: { onClose: () => void; sheet: Sheet | null }) {
  const { kept, problem, rename, remove, bringIn } = useTemplates()
  const [chosenId, setChosenId] = useState(shippedTemplates[0].id)
  const all = [...shippedTemplates, ...(kept ?? [])]
  const chosen = all.find(({ id }) => id === chosenId) ?? all[0]
  const file = useRef<HTMLInputElement>(null)
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_280px] gap-5">
      <div className="flex min-w-0 flex-col gap-3">
        <Templates title="Ready ones" list={shippedTemplates} chosenId={chosen.id} onChoose={setChosenId} />
        <div className="flex items-center justify-between">
          <h3 className="font-semibold">Your own</h3>
          <input
            ref={file}
            type="file"
            aria-label="Template file"
            accept=".json"
            className="hidden"
            onChange={(event) => {
              const [first] = event.target.files ?? []
              if (first) void bringIn(first)
              event.target.value = ''
            }}
          />
          <Button onClick={() => file.current?.click()}>
            <Upload size={14} aria-hidden /> Bring one in
          </Button>
        </div>
        {problem && (
          <p role="alert" className="text-xs text-error">
            {problem}
          </p>
        )}
        {kept?.length === 0 && (
          <p className="text-xs text-muted">Keep any sheet as a template in the settings of its page.</p>
        )}
        <Templates list={kept ?? []} chosenId={chosen.id} onChoose={setChosenId} />
      </div>
      <Roles key={chosen.id} template={chosen} sheet={sheet} onDone={onClose}>
        {kept?.some(({ id }) => id === chosen.id) && (
          <KeptRows template={chosen} onRename={rename} onRemove={remove} />
        )}
      </Roles>
    </div>
  )
}

function Templates({
  title,
  list,
  chosenId,
  onChoose,
}: {
  title?: string
  list: readonly SheetTemplate[]
  chosenId: string
  onChoose: (id: string) => void
}) {
  return (
    <>
      {title && <h3 className="font-semibold">{title}</h3>}
      <div className="flex flex-wrap items-end gap-3" role="radiogroup" aria-label={title ?? 'Your own'}>
        {list.map((template) => (
          <button
            key={template.id}
            type="button"
            role="radio"
            aria-checked={template.id === chosenId}
            onClick={() => onChoose(template.id)}
            className={`flex w-[166px] flex-col gap-1 rounded border p-1.5 text-left ${template.id === chosenId ? 'border-primary ring-1 ring-primary' : 'border-line hover:border-muted'}`}
          >
            <TemplatePicture template={template} />
            <span className="truncate text-xs">{template.name}</span>
          </button>
        ))}
      </div>
    </>
  )
}

/** The template as it would look with the maps of this folio. */
function TemplatePicture({ template }: { template: SheetTemplate }) {
  const { maps, typeStyles, pictures } = useDocument()
  const datasets = usePrepared()
  const canvas = useRef<HTMLCanvasElement>(null)
  const { widthMm, heightMm } = template.sheet.page
  useEffect(() => {
    let here = true
    const made = sheetFromTemplate(template, {
      name: template.name,
      roles: proposedRoles(template, maps),
      maps,
      datasets,
      newId: () => nanoid(8),
      typeStyles,
      pictures,
    })
    const styles = [...typeStyles, ...made.typeStyles]
    ask(folioNow(), (worker) => worker.previewSheet(made.sheet, styles, 2 * pictureWidth)).then(
      (bitmap) => {
        if (!here || !bitmap || !canvas.current) return
        canvas.current.width = bitmap.width
        canvas.current.height = bitmap.height
        canvas.current.getContext('2d')?.drawImage(bitmap, 0, 0)
      },
      () => undefined,
    )
    return () => void (here = false)
  }, [template, maps, datasets, typeStyles, pictures])
  return (
    <span className="grid h-[118px] place-items-center bg-base-200">
      <canvas
        ref={canvas}
        aria-hidden
        className="max-h-[112px] max-w-full bg-white shadow"
        style={{ aspectRatio: `${widthMm} / ${heightMm}`, height: Math.min(112, (150 * heightMm) / widthMm) }}
      />
    </span>
  )
}

/** Which map takes which role, and the two ways to go on. */
function Roles({
  template,
  sheet,
  onDone,
  children,
}: {
  template: SheetTemplate
  sheet: Sheet | null
  onDone: () => void
  children: React.ReactNode
}) {
  const folio = useDocument()
  const datasets = usePrepared()
  const [name, setName] = useState(template.name)
  const [roles, setRoles] = useState(() => proposedRoles(template, folio.maps))
  const take = (words: string, made: FromTemplate, put: (draft: Draft<Folio>) => void) =>
    editFolio(words, (draft) => {
      for (const style of made.typeStyles)
        if (!draft.typeStyles.some(({ id }) => id === style.id)) draft.typeStyles.push(style)
      for (const picture of made.pictures)
        if (!draft.pictures.some(({ id }) => id === picture.id)) draft.pictures.push(picture)
      put(draft)
    })
  const make = () => {
    const { maps, typeStyles, pictures } = folio
    const made = sheetFromTemplate(template, {
      name,
      roles,
      maps,
      datasets,
      newId: () => nanoid(8),
      typeStyles,
      pictures,
    })
    take(`Add sheet ${name}`, made, (draft) => void draft.sheets.push(made.sheet as Draft<Sheet>))
    useFolio.getState().select({ sheetId: made.sheet.id, partIds: [] })
    onDone()
  }
  const layOver = () => {
    if (!sheet) return
    const made = laidOver(sheet, template, () => nanoid(8))
    take(`Lay ${template.name} over ${sheet.name}`, made, (draft) => {
      const at = draft.sheets.findIndex(({ id }) => id === sheet.id)
      if (at >= 0) draft.sheets[at] = made.sheet as Draft<Sheet>
    })
    useFolio.getState().select({ partIds: [] })
    useFolio.getState().tell(`${template.name} was laid over “${sheet.name}”.`, true)
    onDone()
  }
  return (
    <div className="flex flex-col gap-2">
      <h3 className="font-serif text-[15px] font-semibold">{template.name}</h3>
      <p className="text-xs text-muted">{template.about}</p>
      <p className="text-xs text-muted">
        {template.sheet.page.widthMm} × {template.sheet.page.heightMm} mm
      </p>
      <Row label="Name">
        <TextField
          label="Name of the new sheet"
          value={name}
          onChange={(next) => setName(next || template.name)}
        />
      </Row>
      {rolesOf(template).map((role) => (
        <Row key={role.name} label={role.name}>
          <Select
            label={`Map for ${role.name}`}
            value={roles.get(role.name) ?? ''}
            options={[
              { value: '', label: 'stays empty' },
              ...folio.maps.map(({ id, name: map }) => ({ value: id, label: map })),
            ]}
            onChange={(id) => setRoles(new Map([...roles, [role.name, id || null]]))}
          />
        </Row>
      ))}
      <Button look="primary" className="mt-1" onClick={make}>
        Make the sheet
      </Button>
      {sheet && <Button onClick={layOver}>Lay it over “{sheet.name}”</Button>}
      {children}
    </div>
  )
}

/** What can be done with a template of one's own. */
function KeptRows({
  template,
  onRename,
  onRemove,
}: {
  template: SheetTemplate
  onRename: (id: string, name: string) => Promise<void>
  onRemove: (id: string) => Promise<void>
}) {
  const [renaming, setRenaming] = useState(false)
  return (
    <div className="mt-2 border-t border-line pt-2">
      {renaming ? (
        <TextField
          label="New name of the template"
          value={template.name}
          onChange={(next) => {
            setRenaming(false)
            if (next.trim()) void onRename(template.id, next.trim())
          }}
        />
      ) : (
        <div className="flex gap-1">
          <IconButton label="Rename the template" onClick={() => setRenaming(true)}>
            <Pencil size={14} />
          </IconButton>
          <IconButton
            label="Save the template to a file"
            onClick={() => saveFrom(`/api/templates/${template.id}`, `${template.name}.keen-template.json`)}
          >
            <Download size={14} />
          </IconButton>
          <IconButton label="Delete the template" onClick={() => void onRemove(template.id)}>
            <Trash2 size={14} />
          </IconButton>
        </div>
      )}
    </div>
  )
}
