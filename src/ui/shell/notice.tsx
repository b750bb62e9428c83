'use client'
import { useEffect } from 'react'
import { Button } from '../kit/controls'
import { useFolio } from './folio-store'

/** A short word about what just happened, with the way back. */
export function Notice() {
  const { notice, hush, undo } = useFolio()
  useEffect(() => {
    if (!notice) return
    const timer = setTimeout(hush, 8000)
    return () => clearTimeout(timer)
  }, [notice, hush])
  if (!notice) return null
  return (
    <div
      role="status"
      className="floating fixed bottom-[76px] left-1/2 z-30 flex -translate-x-1/2 items-center gap-3 px-4 py-2"
    >
      {notice.text}
      {notice.undo && (
        <Button
          onClick={() => {
            undo()
            hush()
          }}
        >
          Undo
        </Button>
      )}
    </div>
  )
}
