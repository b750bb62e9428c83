'use client'
import type { ReactNode } from 'react'
import { maxClasses, methodIds, methods, minClasses, type Classification } from '@/core/classify/classify'
import { numberWord } from '@/core/classify/labels'
import type { Classing } from '@/core/classify/spec'
import { colouringLabel, coloursFor, type Colouring } from '@/core/colour/colouring'
import { Row } from '../../kit/controls'
import { ChoiceList, Popover } from '../../kit/popover'
import { Swatches } from '../colours/scheme-picker'
import { chooseClasses, chooseMethodOf } from '../edit-classing'
import type { PickerProps } from './kind-ui'

/**
 * What opens under the number of classes and under their method in a sentence; null for other words. With `noClasses`
 * a map may do without.
 */
export function classingPicker(
  { control, layer, prepared, close }: PickerProps,
  classing: Pick<Classing, 'classes' | 'method' | 'unclassed'>,
  { result, noClasses }: { result: Classification | null | undefined; noClasses?: () => void },
): ReactNode {
  if (control === 'classes')
    return (
      <ChoiceList
        value={noClasses && classing.unclassed ? 'none' : String(result?.counts.length ?? classing.classes)}
        options={[
          ...(noClasses ? [{ value: 'none', label: 'no classes', note: 'each its own shade' }] : []),
          ...Array.from({ length: maxClasses - minClasses + 1 }, (_, i) => ({
            value: String(i + minClasses),
            label: numberWord(i + minClasses),
          })),
        ]}
        onPick={(n) => {
          if (n === 'none') noClasses?.()
          else chooseClasses(layer, Number(n))
          close()
        }}
      />
    )
  if (control === 'method')
    return (
      <ChoiceList
        value={classing.method}
        options={methodIds.map((id) => ({ value: id, label: methods[id].label, note: methods[id].note }))}
        onPick={(method) => {
          void chooseMethodOf(layer, prepared, result?.breaks ?? [], method)
          close()
        }}
      />
    )
  return null
}

/** The colours of a layer's classes, opened for another choice. */
export function ColoursRow({
  colouring,
  classes,
  children,
}: {
  colouring: Colouring
  classes: number
  children: ReactNode
}) {
  return (
    <Row label="Colours">
      <Popover
        label="Colours"
        align="end"
        trigger={
          <button
            type="button"
            aria-label={`Colours: ${colouringLabel(colouring)}`}
            className="control flex w-full items-center gap-2"
          >
            <Swatches colours={coloursFor(colouring, Math.min(9, classes))} />
            <span className="truncate">{colouringLabel(colouring)}</span>
          </button>
        }
      >
        {children}
      </Popover>
    </Row>
  )
}
