'use client'
import { TriangleAlert } from 'lucide-react'
import { useEffect, useState } from 'react'
import { Button } from '../kit/controls'
import { saveNow } from './autosave'
import { useFolio } from './folio-store'

/** Says why the folio cannot be saved at present, until it is. It is tried again by itself every few seconds. */
export function Unsaved() {
  const save = useFolio((state) => state.save)
  const [words, setWords] = useState<string | null>(null)
  useEffect(() => {
    if (save.status === 'failed') setWords(save.message)
    // While it is tried again the words stay.
    else if (save.status === 'saved' || save.status === 'refused') setWords(null)
  }, [save])
  if (words === null) return null
  return (
    <div
      role="alert"
      className="floating fixed top-14 left-1/2 z-40 flex max-w-[760px] -translate-x-1/2 items-center gap-3 border-error px-4 py-2"
    >
      <TriangleAlert size={16} aria-hidden className="shrink-0 text-error" />
      <span>{words}.</span>
      <Button disabled={save.status === 'saving'} onClick={() => void saveNow()}>
        Try now
      </Button>
    </div>
  )
}
