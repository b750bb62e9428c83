'use client'
import { Italic } from 'lucide-react'
import { fontFamilies, fontFamilyIds, type FontWeight } from '@/core/scene/fonts'
import type { TypeStyle } from '@/core/sheet/type-style'
import { IconButton, Row, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'

const weights: { value: string; label: string }[] = [
  { value: '300', label: 'Light' },
  { value: '400', label: 'Regular' },
  { value: '600', label: 'Semibold' },
  { value: '700', label: 'Bold' },
]

/** Typeface, size, weight, slope, spacing and colour of a piece of lettering. */
export function TypeStyleRows({
  label,
  style,
  onChange,
  spacing = false,
}: {
  label: string
  style: TypeStyle
  onChange: (part: Partial<TypeStyle>) => void
  spacing?: boolean
}) {
  return (
    <>
      <Row label={label}>
        <Select
          label={`${label}: typeface`}
          value={style.family}
          options={fontFamilyIds.map((id) => ({ value: id, label: fontFamilies[id].label }))}
          onChange={(family) => onChange({ family })}
        />
      </Row>
      <Row label="">
        <NumberField
          label={`${label}: size`}
          className="max-w-[76px]"
          value={style.sizePt}
          unit="pt"
          min={2}
          max={400}
          step={0.5}
          onChange={(sizePt) => onChange({ sizePt })}
        />
        <Select
          label={`${label}: weight`}
          value={String(style.weight)}
          options={weights}
          onChange={(weight) => onChange({ weight: Number(weight) as FontWeight })}
        />
        <IconButton
          label={`${label}: italic`}
          aria-pressed={style.italic}
          active={style.italic}
          onClick={() => onChange({ italic: !style.italic })}
        >
          <Italic size={14} />
        </IconButton>
      </Row>
      <Row label="">
        <ColourField
          label={`${label}: colour`}
          value={style.colour}
          onChange={(colour) => onChange({ colour })}
        />
      </Row>
      {spacing && (
        <Row label="Spacing">
          <NumberField
            label={`${label}: letter-spacing`}
            value={style.letterSpacingPt}
            unit="pt"
            min={-5}
            max={50}
            step={0.1}
            onChange={(letterSpacingPt) => onChange({ letterSpacingPt })}
          />
        </Row>
      )}
    </>
  )
}
