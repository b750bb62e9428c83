'use client'
import { FilePlus2 } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import { emptyFolio } from '@/core/folio/empty-folio'
import { sheetFromTemplate, type SheetTemplate } from '@/core/sheet/template'
import { shippedTemplates } from '@/core/sheet/templates'
import type { FolioInWindow } from '@/server/documents'
import { Button } from '../../kit/controls'
import { FileButton } from '../../kit/file-button'
import { api } from '../../shell/api'
import { KeptRows } from './kept-rows'
import { TemplatePicture } from './template-picture'
import { useTemplates } from './use-templates'

const nothing = emptyFolio('templates', 'Templates')
const noData = new Map()

type Props = {
  /** Does something that takes a while, and says what went wrong. */
  attempt: (doing: string, work: () => Promise<void>) => void
  onOpen: (folioId: string) => void
}

/** The templates of this server: a folio is started from one, own ones are kept. They can be folded away. */
export function TemplateShelf({ attempt, onOpen }: Props) {
  const [open, setOpen] = useState(true)
  return (
    <section className="mt-10">
      <h2>
        <button
          type="button"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          className="min-h-7 font-serif text-[18px] font-semibold hover:text-primary"
        >
          Templates
          <span className="ml-3 font-sans text-xs font-normal text-muted">
            {open ? 'fold away' : 'page designs to start from'}
          </span>
        </button>
      </h2>
      {open && <Templates attempt={attempt} onOpen={onOpen} />}
    </section>
  )
}

function Templates({ attempt, onOpen }: Props) {
  const { kept, problem, rename, remove, bringIn } = useTemplates()
  const start = (template: SheetTemplate) =>
    attempt(`Starting a folio from ${template.name}`, async () => {
      const { folio, revision } = await api<FolioInWindow>('POST', '/api/folios', { name: template.name })
      const made = sheetFromTemplate(template, {
        name: template.name,
        roles: new Map(),
        maps: [],
        datasets: noData,
        newId: () => nanoid(8),
        typeStyles: folio.typeStyles,
        pictures: folio.pictures,
      })
      await api('PUT', `/api/folios/${folio.id}`, {
        baseRevision: revision,
        folio: {
          ...folio,
          typeStyles: [...folio.typeStyles, ...made.typeStyles],
          pictures: [...folio.pictures, ...made.pictures],
          sheets: [made.sheet],
        },
        label: `Start from ${template.name}`,
      })
      onOpen(folio.id)
    })
  return (
    <>
      <div className="my-3 flex items-center gap-3">
        <FileButton label="Template file" words="Bring in a template" onFile={(file) => void bringIn(file)} />
        {kept?.length === 0 && (
          <span className="text-xs text-muted">
            Any sheet can be kept as a template, in the settings of its page.
          </span>
        )}
      </div>
      {problem && (
        <p role="alert" className="mb-3 text-error">
          {problem}
        </p>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(180px,1fr))] gap-5" aria-label="Templates">
        {[...(kept ?? []), ...shippedTemplates].map((template) => (
          <li key={template.id} className="flex flex-col border border-line bg-base-100 p-2">
            <TemplatePicture template={template} folio={nothing} datasets={noData} />
            <p className="mt-2 truncate font-semibold">{template.name}</p>
            <p className="line-clamp-2 flex-1 text-xs text-muted" title={template.about}>
              {template.about}
            </p>
            <Button className="mt-2" onClick={() => start(template)}>
              <FilePlus2 size={14} aria-hidden /> Start a folio
            </Button>
            {kept?.includes(template) && <KeptRows template={template} onRename={rename} onRemove={remove} />}
          </li>
        ))}
      </ul>
    </>
  )
}
