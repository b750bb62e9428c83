'use client'
import { Italic } from 'lucide-react'
import { fontFamilies, fontFamilyIds, type FontWeight } from '@/core/scene/fonts'
import { usesOfStyle } from '@/core/sheet/style-uses'
import type { TypeStyle } from '@/core/sheet/type-style'
import { resolvedStyle } from '@/core/sheet/type-styles'
import { Button, IconButton, Row, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { editFolio, useDocument } from '../../shell/folio-store'

const weights: { value: string; label: string }[] = [
  { value: '300', label: 'Light' },
  { value: '400', label: 'Regular' },
  { value: '600', label: 'Semibold' },
  { value: '700', label: 'Bold' },
]

type Props = {
  label: string
  style: TypeStyle
  onChange: (part: Partial<TypeStyle>) => void
  spacing?: boolean
}

/**
 * Typeface, size, weight, slope, spacing and colour of a piece of lettering: of its own, or of a named style of the
 * folio, which then changes wherever it is used.
 */
export function TypeStyleRows({ label, style, onChange, spacing = false }: Props) {
  const { typeStyles, sheets } = useDocument()
  const named = typeStyles.find(({ id }) => id === style.named)
  const shown = resolvedStyle(style, typeStyles)
  const set = (part: Partial<TypeStyle>) => {
    if (!named) return onChange(part)
    editFolio(
      `Type style ${named.name}`,
      (draft) => {
        const one = draft.typeStyles.find(({ id }) => id === named.id)
        if (one) Object.assign(one.style, part)
      },
      `type style ${named.id} ${Object.keys(part)[0]}`,
    )
  }
  const uses = named ? usesOfStyle(sheets, named.id) : null
  return (
    <>
      <Row label={label}>
        <Select
          label={`${label}: style`}
          value={named?.id ?? ''}
          options={[
            { value: '', label: 'a style of its own' },
            ...typeStyles.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onChange={(id) => onChange(id ? { named: id } : { ...shown, named: null })}
        />
      </Row>
      {uses && uses.texts > 1 && (
        <p className="flex items-center justify-between gap-2 text-xs text-muted">
          A change here is one of {uses.texts} texts on {uses.sheets} {uses.sheets === 1 ? 'sheet' : 'sheets'}
          .
          <Button
            look="quiet"
            className="!h-6 !px-1.5 text-xs"
            onClick={() => onChange({ ...shown, named: null })}
          >
            Make own
          </Button>
        </p>
      )}
      <Row label="">
        <Select
          label={`${label}: typeface`}
          value={shown.family}
          options={fontFamilyIds.map((id) => ({ value: id, label: fontFamilies[id].label }))}
          onChange={(family) => set({ family })}
        />
      </Row>
      <Row label="">
        <NumberField
          label={`${label}: size`}
          className="!w-[66px] !flex-none"
          value={shown.sizePt}
          unit="pt"
          min={2}
          max={400}
          step={0.5}
          onChange={(sizePt) => set({ sizePt })}
        />
        <Select
          label={`${label}: weight`}
          value={String(shown.weight)}
          options={weights}
          onChange={(weight) => set({ weight: Number(weight) as FontWeight })}
        />
      </Row>
      <Row label="">
        <ColourField label={`${label}: colour`} value={shown.colour} onChange={(colour) => set({ colour })} />
        <IconButton
          label={`${label}: italic`}
          aria-pressed={shown.italic}
          active={shown.italic}
          onClick={() => set({ italic: !shown.italic })}
        >
          <Italic size={14} />
        </IconButton>
      </Row>
      {spacing && (
        <Row label="Spacing">
          <NumberField
            label={`${label}: letter-spacing`}
            value={shown.letterSpacingPt}
            unit="pt"
            min={-5}
            max={50}
            step={0.1}
            onChange={(letterSpacingPt) => set({ letterSpacingPt })}
          />
        </Row>
      )}
    </>
  )
}
