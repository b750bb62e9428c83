'use client'
import { labelPatterns, type Classing } from '@/core/classify/spec'
import { thousandsMarks, type NumberFormat, type ThousandsMark } from '@/core/classify/number-format'
import type { Classes } from '@/core/kinds/kind'
import type { Layer } from '@/core/map/spec'
import { Row, Select } from '../../kit/controls'
import { TextField } from '../../kit/text-field'
import { changeClassing } from '../edit-classing'

const patternWords = { to: '2.0 to 3.5', dash: '2.0–3.5', under: 'under 3.5', over: '2.0 and over' }
const divisors = [
  { value: '1', label: 'as they are' },
  { value: '1000', label: 'in thousands' },
  { value: '1000000', label: 'in millions' },
  { value: '1000000000', label: 'in thousand millions' },
]

/** How classes and numbers are written, and which class a value on a break belongs to. */
export function LabelForm({
  layer,
  classing,
  classes: { labels, generated },
}: {
  layer: Layer
  classing: Classing
  classes: Classes
}) {
  const { numbers } = classing
  const change = (part: Partial<NumberFormat>) =>
    changeClassing(layer, 'Number format', (s) => void Object.assign(s.numbers, part))
  const say = (i: number, text: string) =>
    changeClassing(layer, `Words for ${generated[i]}`, (s) => {
      if (text === '' || text === generated[i]) delete s.classWords[String(i)]
      else s.classWords[String(i)] = { text, was: generated[i] }
    })
  return (
    <div className="flex w-72 flex-col gap-1">
      <Row label="Classes">
        <Select
          label="Wording of classes"
          value={classing.labelPattern}
          options={labelPatterns.map((value) => ({ value, label: patternWords[value] }))}
          onChange={(pattern) =>
            changeClassing(layer, 'Wording of classes', (s) => void (s.labelPattern = pattern))
          }
        />
      </Row>
      <Row label="On a break">
        <Select
          label="A value on a break belongs to"
          value={classing.inclusive}
          options={[
            { value: 'lower', label: 'goes to the class above' },
            { value: 'upper', label: 'goes to the class below' },
          ]}
          onChange={(inclusive) =>
            changeClassing(layer, 'Ends of classes', (s) => void (s.inclusive = inclusive))
          }
        />
      </Row>
      <Row label="Decimals">
        <Select
          label="Decimals"
          value={String(numbers.decimals ?? 'auto')}
          options={[
            { value: 'auto', label: 'as many as needed' },
            ...[0, 1, 2, 3, 4].map((n) => ({ value: String(n), label: String(n) })),
          ]}
          onChange={(n) => change({ decimals: n === 'auto' ? null : Number(n) })}
        />
      </Row>
      <Row label="Numbers">
        <Select
          label="Numbers given"
          value={String(numbers.divideBy)}
          options={divisors}
          onChange={(n) => change({ divideBy: Number(n) as NumberFormat['divideBy'] })}
        />
      </Row>
      <Row label="Marks">
        <Select
          label="Decimal mark of labels"
          value={numbers.decimalMark}
          options={[
            { value: '.', label: 'point' },
            { value: ',', label: 'comma' },
          ]}
          onChange={(decimalMark) =>
            change({ decimalMark, thousands: decimalMark === numbers.thousands ? ' ' : numbers.thousands })
          }
        />
        <Select
          label="Thousands mark of labels"
          value={numbers.thousands}
          options={(Object.keys(thousandsMarks) as ThousandsMark[])
            .filter((mark) => mark !== numbers.decimalMark)
            .map((value) => ({ value, label: thousandsMarks[value] }))}
          onChange={(thousands) => change({ thousands })}
        />
      </Row>
      <Row label="Around it">
        <TextField
          label="Words before a number"
          placeholder="before"
          allowEmpty
          value={numbers.before}
          onChange={(before) => change({ before })}
        />
        <TextField
          label="Words after a number"
          placeholder="after"
          allowEmpty
          value={numbers.after}
          onChange={(after) => change({ after })}
        />
      </Row>
      {!classing.unclassed && (
        <div className="mt-1 flex flex-col gap-1 border-t border-line pt-2">
          {labels.map((label, i) => (
            <Row key={i} label={generated[i]}>
              <TextField
                label={`Words for the class ${generated[i]}`}
                value={label}
                onChange={(text) => say(i, text.trim())}
              />
            </Row>
          ))}
          <p className="text-xs text-muted">
            Words of your own stay when the class changes; the bench then says so.
          </p>
        </div>
      )}
    </div>
  )
}
