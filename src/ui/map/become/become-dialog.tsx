'use client'
import { create } from 'zustand'
import { usePrepared } from '../../shell/contents'
import { Dialog } from '../../kit/popover'
import { BecomeGallery } from './become-gallery'

/** Whether the gallery of what data can become is open, and for which dataset; null for all of the folio. */
export const useBecoming = create<{ open: boolean; datasetId: string | null }>(() => ({
  open: false,
  datasetId: null,
}))

export const openBecoming = (datasetId: string | null = null): void =>
  useBecoming.setState({ open: true, datasetId })
const close = (): void => useBecoming.setState({ open: false })

/** The gallery above whatever desk is open. */
export function BecomeDialog() {
  const { open, datasetId } = useBecoming()
  const all = usePrepared()
  const one = datasetId === null ? undefined : all.get(datasetId)
  return (
    <Dialog
      open={open}
      onClose={close}
      title={one ? `What ${one.entry.name} can become` : 'What this data can become'}
      width="wide"
    >
      <BecomeGallery of={one && [one]} all={all} onTaken={close} />
    </Dialog>
  )
}
