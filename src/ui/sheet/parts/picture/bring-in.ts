'use client'
import type { PictureEntry } from '@/core/sheet/picture'
import { api } from '../../../shell/api'
import { editFolio, useFolio } from '../../../shell/folio-store'

export const pictureFiles = {
  'image/png': ['.png'],
  'image/jpeg': ['.jpg', '.jpeg'],
  'image/svg+xml': ['.svg'],
  'image/webp': ['.webp'],
  'image/tiff': ['.tif', '.tiff'],
  'image/gif': ['.gif'],
  'image/avif': ['.avif'],
}

/**
 * Stores a picture and enters it in the folio, once however often it is brought in. What was changed or left out is
 * told.
 * @throws ApiProblem where the server refuses it
 */
export async function bringInPicture(file: File): Promise<PictureEntry> {
  const { entry, remarks } = await api<{ entry: PictureEntry; remarks: string[] }>(
    'POST',
    `/api/pictures?name=${encodeURIComponent(file.name)}`,
    file.slice(0, file.size, 'application/octet-stream'),
  )
  editFolio(`Bring in ${entry.name}`, (draft) => {
    if (!draft.pictures.some(({ id }) => id === entry.id)) draft.pictures.push(entry)
  })
  if (remarks.length) useFolio.getState().tell(`${entry.name}: ${remarks.join(' ')}`)
  return entry
}
