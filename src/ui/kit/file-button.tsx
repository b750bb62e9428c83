'use client'
import { Upload } from 'lucide-react'
import { useRef } from 'react'
import { Button } from './controls'

/** A button that asks for one file; `label` says for those who do not see it which. */
export function FileButton({
  label,
  words,
  accept = '.json',
  onFile,
}: {
  label: string
  words: string
  accept?: string
  onFile: (file: File) => void
}) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button onClick={() => input.current?.click()}>
        <Upload size={14} aria-hidden /> {words}
      </Button>
      <input
        ref={input}
        type="file"
        aria-label={label}
        accept={accept}
        className="hidden"
        onChange={(event) => {
          const [first] = event.target.files ?? []
          if (first) onFile(first)
          // The same file may be chosen again.
          event.target.value = ''
        }}
      />
    </>
  )
}
