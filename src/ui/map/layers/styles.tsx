'use client'
import { ClipboardPaste, Copy, FileDown, FileUp, Paintbrush, Pin, X } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useRef, useState } from 'react'
import { create } from 'zustand'
import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import type { Layer } from '@/core/map/spec'
import { styleOf, styleRefused, withStyle, type LayerStyle } from '@/core/map/style'
import { readStyles, writeStyles } from '@/formats/styles-file/styles-file'
import { ownText } from '@/formats/own-file'
import { Button, IconButton } from '../../kit/controls'
import { Popover } from '../../kit/popover'
import { saveJson } from '../../kit/save-file'
import { editFolio, useDocument, useFolio } from '../../shell/folio-store'
import { editLayer } from '../edit-map'

/** The style that was copied last, for other layers and other folios in this window. */
const useCopied = create<{ style: LayerStyle | null; from: string }>(() => ({ style: null, from: '' }))

const line =
  'flex w-full items-center gap-2 rounded px-2 py-1 text-left hover:bg-base-200 disabled:opacity-40'

/**
 * Copy a layer's style, take one over, keep it under a name, save the kept ones to a file or bring some in.
 */
export function Styles({ layer, prepared }: { layer: Layer; prepared: Prepared }) {
  const { styles } = useDocument()
  const copied = useCopied()
  const picker = useRef<HTMLInputElement>(null)
  const [problem, setProblem] = useState('')
  const take = (style: LayerStyle, name: string) =>
    editLayer(
      layer.id,
      `Style of ${name}`,
      (draft) => void Object.assign(draft, withStyle(layer, style, prepared)),
    )
  const keep = () => {
    const taken = new Set(styles.map(({ name }) => name))
    let name = layer.name
    for (let n = 2; taken.has(name); n++) name = `${layer.name} ${n}`
    editFolio(
      `Keep the style ${name}`,
      (draft) => void draft.styles.push({ ...styleOf(layer), id: nanoid(8), name }),
    )
    useFolio.getState().tell(`The style is kept as “${name}”.`, true)
  }
  const save = () => {
    saveJson(writeStyles(styles), 'styles.keen-styles.json')
  }
  const bring = async (file: File) => {
    try {
      const styles = readStyles(await ownText(file), file.name)
      editFolio(
        styles.length === 1 ? 'Bring in a style' : `Bring in ${styles.length} styles`,
        (draft) => void draft.styles.push(...styles.map((style) => ({ ...style, id: nanoid(8) }))),
      )
      setProblem('')
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    }
  }
  return (
    <Popover
      label="Style"
      align="end"
      className="w-64"
      trigger={
        <Button className="w-full">
          <Paintbrush size={13} /> Style
        </Button>
      }
    >
      {(close) => (
        <>
          <button
            type="button"
            className={line}
            onClick={() => {
              useCopied.setState({ style: styleOf(layer), from: layer.name })
              useFolio.getState().tell(`The style of “${layer.name}” is copied.`)
              close()
            }}
          >
            <Copy size={14} aria-hidden /> Copy the style
          </button>
          <button
            type="button"
            className={line}
            disabled={!copied.style || styleRefused(copied.style, prepared) !== null}
            onClick={() => {
              if (copied.style) take(copied.style, copied.from)
              close()
            }}
          >
            <ClipboardPaste size={14} aria-hidden />{' '}
            {copied.style ? `Take that of ${copied.from}` : 'Take the copied style'}
          </button>
          <button
            type="button"
            className={line}
            onClick={() => {
              keep()
              close()
            }}
          >
            <Pin size={14} aria-hidden /> Keep the style in the folio
          </button>
          <div className="mt-1 border-t border-line pt-1">
            <p className="px-2 text-xs text-muted">
              {styles.length ? 'Kept styles' : 'No styles are kept yet.'}
            </p>
            <ul>
              {styles.map((style) => {
                const refused = styleRefused(style, prepared)
                return (
                  <li key={style.id} className="flex items-center">
                    <button
                      type="button"
                      className={line}
                      disabled={refused !== null}
                      title={refused ?? undefined}
                      onClick={() => {
                        take(style, style.name)
                        close()
                      }}
                    >
                      <span className="truncate">{style.name}</span>
                      <span className="ml-auto shrink-0 text-xs text-muted">
                        {kindOf(style.symbology.kind).label.toLowerCase()}
                      </span>
                    </button>
                    <IconButton
                      label={`Forget the style ${style.name}`}
                      onClick={() =>
                        editFolio(
                          `Forget the style ${style.name}`,
                          (draft) => void (draft.styles = draft.styles.filter(({ id }) => id !== style.id)),
                        )
                      }
                    >
                      <X size={13} />
                    </IconButton>
                  </li>
                )
              })}
            </ul>
          </div>
          <div className="mt-1 border-t border-line pt-1">
            <button type="button" className={line} disabled={!styles.length} onClick={save}>
              <FileDown size={14} aria-hidden /> Save the kept styles to a file
            </button>
            <button type="button" className={line} onClick={() => picker.current?.click()}>
              <FileUp size={14} aria-hidden /> Bring in styles from a file
            </button>
            <input
              ref={picker}
              type="file"
              accept=".json"
              aria-label="File of styles"
              className="hidden"
              onChange={(event) => event.target.files?.[0] && void bring(event.target.files[0])}
            />
            {problem && (
              <p role="alert" className="px-2 text-xs text-error">
                {problem}
              </p>
            )}
          </div>
        </>
      )}
    </Popover>
  )
}
