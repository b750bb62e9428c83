'use client'
import type { Draft } from 'immer'
import { nanoid } from 'nanoid'
import { useState } from 'react'
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
import { Button, Row, Select } from '../../kit/controls'
import { FileButton } from '../../kit/file-button'
import { Dialog } from '../../kit/popover'
import { TextField } from '../../kit/text-field'
import { usePrepared } from '../../shell/contents'
import { editFolio, useDocument, useFolio } from '../../shell/folio-store'
import { KeptRows } from './kept-rows'
import { TemplatePicture } from './template-picture'
import { useTemplates } from './use-templates'

type Props = { open: boolean; onClose: () => void; sheet: Sheet | null }

/** A sheet from a template: which one, and which map takes which role. */
export function TemplateDialog({ open, onClose, sheet }: Props) {
  return (
    <Dialog open={open} onClose={onClose} title="A sheet from a template" width="wide">
      {open && <Choosing onClose={onClose} sheet={sheet} />}
    </Dialog>
  )
}

/** The templates with small pictures of the folio's maps, and what is to be said of the chosen one. */
export function Choosing({ onClose, sheet }: { onClose: () => void; sheet: Sheet | null }) {
  const { kept, problem, rename, remove, bringIn } = useTemplates()
  const [chosenId, setChosenId] = useState(shippedTemplates[0].id)
  const all = [...shippedTemplates, ...(kept ?? [])]
  const chosen = all.find(({ id }) => id === chosenId) ?? all[0]
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_280px] gap-5">
      <div className="flex min-w-0 flex-col gap-3">
        <Templates title="Ready ones" list={shippedTemplates} chosenId={chosen.id} onChoose={setChosenId} />
        <div className="flex items-center justify-between">
          <h3 className="font-semibold">Your own</h3>
          <FileButton label="Template file" words="Bring one in" onFile={(file) => void bringIn(file)} />
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
  const folio = useDocument()
  const datasets = usePrepared()
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
            <TemplatePicture template={template} folio={folio} datasets={datasets} />
            <span className="truncate text-xs">{template.name}</span>
          </button>
        ))}
      </div>
    </>
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
