'use client'
import { Download, Plus, Trash2 } from 'lucide-react'
import { nanoid } from 'nanoid'
import { broughtWords, looksOf, withLooks } from '@/core/folio/looks'
import { fontFamilies } from '@/core/scene/fonts'
import { usesOfStyle } from '@/core/sheet/style-uses'
import { lineStyle, type NamedTypeStyle } from '@/core/sheet/type-style'
import { inStyle } from '@/core/sheet/type-styles'
import { freeName } from '@/core/sheet/free-name'
import { readLooks, writeLooks } from '@/formats/looks-file/looks-file'
import { ownText } from '@/formats/own-file'
import { Button, IconButton } from '../kit/controls'
import { useDocumentFonts } from '../kit/document-fonts'
import { FileButton } from '../kit/file-button'
import { Fold } from '../kit/fold'
import { saveJson } from '../kit/save-file'
import { TextField } from '../kit/text-field'
import { editFolio, useDocument, useFolio } from '../shell/folio-store'

/** The named type styles of the folio, and its looks as a file. */
export function LooksForm() {
  const folio = useDocument()
  const { tell } = useFolio.getState()
  const bringIn = async (chosen: File) => {
    try {
      const { looks, brought } = withLooks(folio, readLooks(await ownText(chosen), chosen.name))
      editFolio(`Bring in ${chosen.name}`, (draft) => Object.assign(draft, structuredClone(looks)))
      tell(broughtWords(brought), true)
    } catch (error) {
      tell(error instanceof Error ? error.message : String(error))
    }
  }
  return (
    <Fold title="Type styles and colours" aside={String(folio.typeStyles.length)}>
      {folio.typeStyles.map((style) => (
        <StyleRow key={style.id} style={style} uses={usesOfStyle(folio.sheets, style.id).texts} />
      ))}
      <Button
        look="quiet"
        onClick={() =>
          editFolio('New type style', (draft) => {
            draft.typeStyles.push({
              id: nanoid(8),
              name: freeName(draft.typeStyles, 'New style'),
              style: inStyle('body', { named: null }),
            })
          })
        }
      >
        <Plus size={14} aria-hidden /> New type style
      </Button>
      <p className="text-xs text-muted">
        A style is changed in the settings of any text that has it. A file holds the styles, the colours and
        the ramps of this folio, for others.
      </p>
      <div className="flex gap-1">
        <Button onClick={() => saveJson(writeLooks(looksOf(folio)), `${folio.name}.keen-looks.json`)}>
          <Download size={14} aria-hidden /> Save to a file
        </Button>
        <FileButton
          label="File of type styles and colours"
          words="Bring in"
          onFile={(file) => void bringIn(file)}
        />
      </div>
    </Fold>
  )
}

function StyleRow({ style: { id, name, style }, uses }: { style: NamedTypeStyle; uses: number }) {
  useDocumentFonts([lineStyle(style).font])
  return (
    <div className="flex items-center gap-1">
      <span
        aria-hidden
        title={`${fontFamilies[style.family].label}, ${style.sizePt} pt`}
        className="w-7 shrink-0 text-center text-[15px]"
        style={{
          fontFamily: `'${fontFamilies[style.family].label}'`,
          fontWeight: style.weight,
          fontStyle: style.italic ? 'italic' : 'normal',
        }}
      >
        Ag
      </span>
      <TextField
        label={`Name of the style ${name}`}
        value={name}
        onChange={(next) =>
          editFolio('Rename type style', (draft) => {
            const one = draft.typeStyles.find((other) => other.id === id)
            if (one && next.trim()) one.name = next.trim().slice(0, 80)
          })
        }
      />
      <span className="w-16 shrink-0 text-right text-xs text-muted">
        {uses === 1 ? '1 text' : `${uses} texts`}
      </span>
      <IconButton
        label={uses ? `${name} is in use` : `Delete the style ${name}`}
        className="!size-6"
        disabled={uses > 0}
        onClick={() =>
          editFolio(`Delete type style ${name}`, (draft) => {
            draft.typeStyles = draft.typeStyles.filter((other) => other.id !== id)
          })
        }
      >
        <Trash2 size={13} />
      </IconButton>
    </div>
  )
}
