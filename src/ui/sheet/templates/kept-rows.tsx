'use client'
import { Download, Pencil, Trash2 } from 'lucide-react'
import { useState } from 'react'
import type { SheetTemplate } from '@/core/sheet/template'
import { IconButton } from '../../kit/controls'
import { saveFrom } from '../../kit/save-file'
import { TextField } from '../../kit/text-field'

/** What can be done with a template of one's own. */
export function KeptRows({
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
