'use client'
import { EditorContent, useEditor, type Editor } from '@tiptap/react'
import {
  AlignCenter,
  AlignJustify,
  AlignLeft,
  AlignRight,
  Bold,
  Braces,
  Eraser,
  Italic,
  Subscript,
  Superscript,
} from 'lucide-react'
import type { CSSProperties } from 'react'
import { fontFamilies } from '@/core/scene/fonts'
import { pointsToMm } from '@/core/scene/units'
import { fillInNames, fillInWords } from '@/core/sheet/fill-ins'
import { fontsOf } from '@/core/sheet/lettering/runs'
import { alignments, type Alignment, type RunLook } from '@/core/sheet/lettering/spec'
import type { TextSettings } from '@/core/sheet/parts/text'
import type { PartBox } from '@/core/sheet/part'
import type { Sheet } from '@/core/sheet/spec'
import type { TypeStyle } from '@/core/sheet/type-style'
import { ColourField } from '../../../kit/colour-field'
import { IconButton, Select } from '../../../kit/controls'
import { useDocumentFonts } from '../../../kit/document-fonts'
import { NumberField } from '../../../kit/number-field'
import { settingsChanger } from '../../edit-sheet'
import type { InsideProps } from '../inside-props'
import type { ChangeText } from './form'
import { fromDocument, toDocument } from './document'
import { alignNow, cssAlign, extensionsFor, lookNow, setAlign, setLook } from './editor'

/** The words of a text part, typed where they stand, each stretch with a look of its own. */
export const InsideText = ({ sheet, part, box, scale, onLeave }: InsideProps<'text'>) => (
  <InsideWords
    name={part.name}
    settings={part.settings}
    change={settingsChanger(sheet.id, part)}
    scale={scale}
    fromRight={liesRight(box, sheet)}
    onLeave={onLeave}
  />
)

type Words = {
  name: string
  settings: TextSettings
  change: ChangeText
  scale: number
  fromRight: boolean
  onLeave: () => void
}

/** Whether a part lies on the right half of its page, where tools have to reach to the left. */
export const liesRight = ({ x, width }: PartBox, { page }: Pick<Sheet, 'page'>): boolean =>
  x + width / 2 > page.widthMm / 2

export function InsideWords({ name, settings, change, scale, fromRight, onLeave }: Words) {
  const { text, spans, alignEach, style, align, leading, ground, columns, gutterMm } = settings
  useDocumentFonts(fontsOf(style, spans))
  const editor = useEditor({
    extensions: extensionsFor(style.sizePt),
    content: toDocument(text, spans, alignEach),
    immediatelyRender: false,
    // Its own style element has no nonce; what is needed of it stands in the class below.
    injectCSS: false,
    shouldRerenderOnTransaction: true,
    editorProps: {
      attributes: {
        'aria-label': `Words of ${name}`,
        role: 'textbox',
        'aria-multiline': 'true',
        class: 'break-words whitespace-break-spaces outline-none',
      },
      handleKeyDown: (_, event) => {
        if (event.key === 'Escape') onLeave()
        event.stopPropagation()
        return event.key === 'Escape'
      },
    },
    onCreate: ({ editor: made }) => {
      made.chain().focus().selectAll().run()
    },
    onUpdate: ({ editor: now }) =>
      change('Change text', (s) => Object.assign(s, fromDocument(now.getJSON())), 'text'),
  })
  const look: CSSProperties = {
    fontFamily: `'${fontFamilies[style.family].label}', sans-serif`,
    fontWeight: style.weight,
    fontStyle: style.italic ? 'italic' : 'normal',
    fontSize: pointsToMm(style.sizePt) * scale,
    lineHeight: leading,
    letterSpacing: pointsToMm(style.letterSpacingPt) * scale,
    color: style.colour,
    textAlign: cssAlign[align],
    padding: ground.paddingMm * scale,
    columnCount: columns > 1 ? columns : undefined,
    columnGap: gutterMm * scale,
  }
  return (
    <>
      <div
        className="absolute inset-0 min-h-full cursor-text bg-white/95 [&_p]:m-0"
        style={look}
        onPointerDown={(event) => event.stopPropagation()}
      >
        <EditorContent editor={editor} />
      </div>
      {editor && <LookBar editor={editor} style={style} align={align} fromRight={fromRight} />}
    </>
  )
}

const alignIcons = {
  left: AlignLeft,
  centre: AlignCenter,
  right: AlignRight,
  justified: AlignJustify,
}
const alignWords: Record<Alignment, string> = {
  left: 'Paragraph to the left',
  centre: 'Paragraph in the middle',
  right: 'Paragraph to the right',
  justified: 'Paragraph to both sides',
}

/** What the chosen letters and paragraphs look like. */
type Bar = {
  editor: Editor
  style: TypeStyle
  align: Alignment
  /** Whether it reaches to the left from the part's right end. */
  fromRight: boolean
}

function LookBar({ editor, style, align, fromRight }: Bar) {
  const look = lookNow(editor)
  const set = (part: Partial<RunLook>) => setLook(editor, part)
  const weight = look.weight ?? style.weight
  const italic = look.italic ?? style.italic
  return (
    <div
      role="toolbar"
      aria-label="Look of the chosen letters"
      className={`floating absolute bottom-full z-20 mb-2 flex w-max items-center gap-0.5 p-1 font-sans ${fromRight ? 'right-0' : 'left-0'}`}
      onPointerDown={(event) => event.stopPropagation()}
      onKeyDown={(event) => event.stopPropagation()}
    >
      <IconButton
        label="Bold"
        active={weight >= 600}
        aria-pressed={weight >= 600}
        onClick={() => set({ weight: weight >= 600 ? 400 : 700 })}
      >
        <Bold size={14} />
      </IconButton>
      <IconButton
        label="Italic"
        active={italic}
        aria-pressed={italic}
        onClick={() => set({ italic: !italic })}
      >
        <Italic size={14} />
      </IconButton>
      <IconButton
        label="Raised"
        active={look.script === 'super'}
        onClick={() => set({ script: look.script === 'super' ? undefined : 'super' })}
      >
        <Superscript size={14} />
      </IconButton>
      <IconButton
        label="Lowered"
        active={look.script === 'sub'}
        onClick={() => set({ script: look.script === 'sub' ? undefined : 'sub' })}
      >
        <Subscript size={14} />
      </IconButton>
      <NumberField
        label="Size of the chosen letters"
        className="!w-[68px] !flex-none"
        value={look.sizePt ?? style.sizePt}
        unit="pt"
        min={2}
        max={400}
        step={0.5}
        onChange={(sizePt) => set({ sizePt })}
      />
      <NumberField
        label="Letter-spacing of the chosen letters"
        className="!w-[64px] !flex-none"
        value={look.letterSpacingPt ?? style.letterSpacingPt}
        unit="pt"
        min={-5}
        max={50}
        step={0.1}
        onChange={(letterSpacingPt) => set({ letterSpacingPt })}
      />
      <span className="w-24">
        <ColourField
          label="Colour of the chosen letters"
          value={look.colour ?? style.colour}
          onChange={(colour) => set({ colour })}
        />
      </span>
      <span className="flex w-[104px] items-center">
        <Braces size={13} aria-hidden className="mx-1 shrink-0 text-muted" />
        <Select
          label="Put in a fill-in"
          value=""
          options={[
            { value: '', label: 'Fill-in…' },
            ...fillInNames.map((name) => ({ value: name as string, label: fillInWords[name] })),
          ]}
          onChange={(name) => name && editor.chain().focus().insertContent(`{{${name}}}`).run()}
        />
      </span>
      {alignments.map((one) => {
        const Icon = alignIcons[one]
        const active = (alignNow(editor) ?? align) === one
        return (
          <IconButton
            key={one}
            label={alignWords[one]}
            active={active}
            aria-pressed={active}
            onClick={() => setAlign(editor, one === align ? null : one)}
          >
            <Icon size={14} />
          </IconButton>
        )
      })}
      <IconButton
        label="Look as the text"
        onClick={() => {
          set({
            weight: undefined,
            italic: undefined,
            sizePt: undefined,
            colour: undefined,
            letterSpacingPt: undefined,
            script: undefined,
            family: undefined,
          })
          setAlign(editor, null)
        }}
      >
        <Eraser size={14} />
      </IconButton>
    </div>
  )
}
