'use client'

function follow(href: string, name: string): void {
  const link = document.createElement('a')
  link.href = href
  link.download = name
  link.click()
}

/** Hands a file to the browser to be saved under a name. */
export function saveFile(content: Blob, name: string): void {
  const href = URL.createObjectURL(content)
  follow(href, name)
  setTimeout(() => URL.revokeObjectURL(href), 10_000)
}

/** Lets the browser fetch a file from the server and save it, without taking it into the page. */
export const saveFrom = (path: string, name: string): void => follow(path, name)

export const saveJson = (text: string, name: string): void =>
  saveFile(new Blob([text], { type: 'application/json' }), name)
