'use client'
import { Grid2x2, Save } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { FileWeight } from '@/server/folio-files'
import { api } from './api'
import { MenuItem } from './menu-item'

const megabytes = (bytes: number): string =>
  `${(bytes / 1e6).toLocaleString('en-GB', { maximumFractionDigits: bytes < 1e7 ? 1 : 0 })} MB`

/** Saving a folio as a file, with all it has or without the fine cells of its rasters, and how large that will be. */
export function SaveItems({ folioId, onSave }: { folioId: string; onSave: (withFine: boolean) => void }) {
  const [weight, setWeight] = useState<FileWeight | null>(null)
  useEffect(() => {
    let here = true
    api<FileWeight>('GET', `/api/folios/${folioId}/file`).then(
      (found) => here && setWeight(found),
      () => undefined,
    )
    return () => void (here = false)
  }, [folioId])
  const fine = weight?.fine.reduce((sum, { bytes }) => sum + bytes, 0) ?? 0
  const names = weight?.fine.map(({ name }) => name).join(', ')
  return (
    <>
      <MenuItem
        icon={<Save size={14} />}
        label="Save as a folio file"
        note={weight ? `about ${megabytes(weight.bytes)}` : '…'}
        onClick={() => onSave(true)}
      />
      {weight && fine > 0 && (
        <MenuItem
          icon={<Grid2x2 size={14} />}
          label="Save without fine cells"
          note={`about ${megabytes(weight.bytes - fine)}; those of ${names} stay here`}
          onClick={() => onSave(false)}
        />
      )}
    </>
  )
}
