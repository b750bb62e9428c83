'use client'

/** Hands a file to the browser to be saved under a name. */
export function saveFile(content: Blob, name: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(content)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}

export const saveJson = (text: string, name: string): void =>
  saveFile(new Blob([text], { type: 'application/json' }), name)
