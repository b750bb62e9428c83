'use client'
import { Mark, type Editor } from '@tiptap/core'
import { Document } from '@tiptap/extension-document'
import { Paragraph } from '@tiptap/extension-paragraph'
import { Text } from '@tiptap/extension-text'
import { UndoRedo } from '@tiptap/extensions'
import { fontFamilies } from '@/core/scene/fonts'
import { pointsToMm } from '@/core/scene/units'
import type { Alignment, RunLook } from '@/core/sheet/lettering/spec'
import { lookMark } from './document'

/** CSS for a look, sizes in `em` of the text's own size. */
function cssOf(look: RunLook, basePt: number): string {
  const size = look.sizePt === undefined ? 1 : look.sizePt / basePt
  const rules = [
    look.family && `font-family:'${fontFamilies[look.family].label}'`,
    look.weight && `font-weight:${look.weight}`,
    look.italic !== undefined && `font-style:${look.italic ? 'italic' : 'normal'}`,
    look.colour && `color:${look.colour}`,
    look.letterSpacingPt !== undefined && `letter-spacing:${look.letterSpacingPt / basePt}em`,
    look.script && `vertical-align:${look.script};font-size:${size * 0.62}em;line-height:0`,
    !look.script && size !== 1 && `font-size:${size}em`,
  ]
  return rules.filter(Boolean).join(';')
}

/** The parts of the editor: paragraphs of letters with looks, and undo while one is inside. */
export const extensionsFor = (basePt: number) => [
  Document,
  Paragraph.extend({
    addAttributes: () => ({
      align: {
        default: null,
        parseHTML: (element) => element.getAttribute('data-align'),
        renderHTML: ({ align }: { align: Alignment | null }) =>
          align ? { 'data-align': align, style: `text-align:${cssAlign[align]}` } : {},
      },
    }),
  }),
  Text,
  UndoRedo,
  Mark.create({
    name: lookMark,
    excludes: '',
    addAttributes: () => ({
      look: {
        default: {},
        parseHTML: (element) => JSON.parse(element.getAttribute('data-look') ?? '{}') as RunLook,
        renderHTML: ({ look }: { look: RunLook }) => ({
          'data-look': JSON.stringify(look),
          style: cssOf(look, basePt),
        }),
      },
    }),
    parseHTML: () => [{ tag: 'span[data-look]' }],
    renderHTML: ({ HTMLAttributes }) => ['span', HTMLAttributes, 0],
  }),
]

export const cssAlign = { left: 'left', right: 'right', centre: 'center', justified: 'justify' } as const

/** How the paragraph is set in which the first chosen letter stands; null as the text. */
export const alignNow = (editor: Editor): Alignment | null =>
  (editor.getAttributes('paragraph').align as Alignment | null | undefined) ?? null

/** Sets the paragraphs of which something is chosen. */
export const setAlign = (editor: Editor, align: Alignment | null): void =>
  void editor.chain().updateAttributes('paragraph', { align }).run()

/** The look of the letters that are chosen, of the first of them. */
export const lookNow = (editor: Editor): RunLook =>
  (editor.getAttributes(lookMark).look as RunLook | undefined) ?? {}

/** Gives the chosen letters something; where none are, all of the text. */
export function setLook(editor: Editor, part: Partial<RunLook>): void {
  const { from, to, empty } = editor.state.selection
  const [start, end] = empty ? [0, editor.state.doc.content.size] : [from, to]
  const { tr, schema } = editor.state
  const mark = schema.marks[lookMark]
  editor.state.doc.nodesBetween(start, end, (node, at) => {
    if (!node.isText) return
    const [a, b] = [Math.max(start, at), Math.min(end, at + node.nodeSize)]
    const before = (node.marks.find(({ type }) => type === mark)?.attrs.look ?? {}) as RunLook
    const look = Object.fromEntries(
      Object.entries({ ...before, ...part }).filter(([, value]) => value !== undefined),
    )
    tr.removeMark(a, b, mark)
    if (Object.keys(look).length) tr.addMark(a, b, mark.create({ look }))
  })
  editor.view.dispatch(tr)
}

/** The size of letters on the screen. */
export const sizePx = (sizePt: number, scale: number): number => pointsToMm(sizePt) * scale
