'use client'
import type { SizeFigure } from '@/core/kinds/kind'
import { Button, Row, Select } from '../../kit/controls'

const forms: { value: SizeFigure['form']; label: string }[] = [
  { value: 'nested', label: 'on one foot' },
  { value: 'concentric', label: 'around one middle' },
  { value: 'beside', label: 'beside each other' },
  { value: 'list', label: 'in a list' },
]

/** How a legend shows sizes, and for which values. */
export function SizeLegendForm({
  form,
  onForm,
  ...rest
}: {
  form: SizeFigure['form']
  onForm: (form: SizeFigure['form']) => void
  values: number[]
  proposed: number[]
  onValues: (values: number[]) => void
}) {
  return (
    <>
      <Row label="Form">
        <Select label="Form of the size legend" value={form} options={forms} onChange={onForm} />
      </Row>
      <LegendValues {...rest} />
    </>
  )
}

export const LegendValues = ({
  values,
  proposed,
  onValues,
}: {
  values: number[]
  proposed: number[]
  onValues: (values: number[]) => void
}) => (
  <Row label="Values">
    <ValuesField values={values} proposed={proposed} onChange={onValues} />
  </Row>
)

/** Values with semicolons between them; none takes round ones. */
function ValuesField({
  values,
  proposed,
  onChange,
}: {
  values: number[]
  proposed: number[]
  onChange: (values: number[]) => void
}) {
  const shown = (values.length ? values : proposed).join('; ')
  return (
    <>
      <input
        key={shown}
        aria-label="Values of the size legend, with semicolons between them"
        defaultValue={shown}
        className="control w-full"
        onBlur={(event) => {
          const read = event.target.value
            .split(/[;\s]+/)
            .filter(Boolean)
            .map((text) => Number(text.replace(/,/g, '')))
          const good = read.length > 0 && read.every((n) => Number.isFinite(n) && n > 0)
          event.target.setAttribute('aria-invalid', String(!good && event.target.value.trim() !== ''))
          if (event.target.value.trim() === '') onChange([])
          else if (good && event.target.value !== shown) onChange(read)
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      {values.length > 0 && (
        <Button className="!h-6 !px-1.5 !text-xs" onClick={() => onChange([])}>
          Round
        </Button>
      )}
    </>
  )
}
