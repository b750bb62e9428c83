'use client'
import { Plus, Trash2 } from 'lucide-react'
import { stripProblems } from '@/core/sheet/parts/treemap/draw'
import { firstStrip } from '@/core/sheet/parts/treemap/strip'
import { figureWords } from '@/core/sheet/parts/treemap/names'
import { mostSubTotals, type Strip, type TreemapSettings } from '@/core/sheet/parts/treemap/spec'
import type { Tiles } from '@/core/sheet/parts/treemap/tiles'
import { stripOf } from '@/core/treemap/sub-totals'
import { allParts } from '@/core/treemap/tree'
import { Button, Check, IconButton, Row, Select } from '../../../kit/controls'
import { Fold } from '../../../kit/fold'
import { NumberField } from '../../../kit/number-field'
import { TextField } from '../../../kit/text-field'
import type { ChangeSettings } from '../../edit-sheet'

type Props = { s: TreemapSettings; change: ChangeSettings<'treemap'>; tiles: Tiles }

/** More parts than this are not offered to be chosen from. */
const mostOffered = 2000

/** A bar beside the treemap whose sub-totals take parts across groups, whole or in shares. */
export function StripFold({ s, change, tiles }: Props) {
  const { strip } = s
  return (
    <Fold title="Sub-totals" aside={strip ? `${strip.subTotals.length} in a strip` : 'none'}>
      <Check
        label="As a strip beside the tiles"
        checked={strip !== null}
        onChange={(on) =>
          change(
            on ? 'Strip of sub-totals' : 'No strip',
            (d) => void (d.strip = on ? firstStrip(tiles.whole) : null),
          )
        }
      />
      {strip && <StripRows s={s} change={change} tiles={tiles} strip={strip} />}
    </Fold>
  )
}

function StripRows({ s, change, tiles, strip }: Props & { strip: Strip }) {
  const parts = allParts(tiles.whole).slice(0, mostOffered)
  const { segments } = stripOf(tiles.whole, strip.subTotals)
  const set = (name: string, recipe: (draft: Strip) => void, merge?: string) =>
    change(name, (d) => void (d.strip && recipe(d.strip)), merge)
  const options = parts.map(({ of: { path } }, i) => ({
    value: String(i),
    label: `${'– '.repeat(path.length - 1)}${path[path.length - 1]}`,
  }))
  return (
    <>
      <Row label="Strip">
        <Select
          label="Where the strip lies"
          value={strip.at}
          options={[
            { value: 'above', label: 'above' },
            { value: 'below', label: 'below' },
          ]}
          onChange={(at) => set('Place of the strip', (d) => void (d.at = at))}
        />
        <NumberField
          label="Height of the strip"
          value={strip.heightMm}
          unit="mm"
          min={1}
          max={200}
          step={0.5}
          onChange={(mm) => set('Height of the strip', (d) => void (d.heightMm = mm), 'strip')}
        />
      </Row>
      {strip.subTotals.map(({ name, of }, k) => (
        <div key={k} className="flex flex-col gap-1 rounded border border-line p-1">
          <Row label={figureWords(segments.find(({ index }) => index === k)?.value ?? 0)}>
            <TextField
              label={`Name of sub-total ${k + 1}`}
              value={name}
              onChange={(next) => set('Name of a sub-total', (d) => void (d.subTotals[k].name = next))}
            />
            <IconButton
              label={`Remove sub-total ${k + 1}`}
              onClick={() => set('Remove a sub-total', (d) => void d.subTotals.splice(k, 1))}
            >
              <Trash2 size={14} />
            </IconButton>
          </Row>
          {of.map(({ path, share }, i) => (
            <div key={i} className="flex items-center gap-1 pl-2 text-xs">
              <span className="min-w-0 flex-1 truncate" title={path.join(', ')}>
                {path.join(', ')}
              </span>
              <span className="w-[76px] shrink-0">
                <NumberField
                  label={`Share of ${path.join(', ')}`}
                  value={100 * share}
                  unit="%"
                  min={0.1}
                  max={100}
                  step={5}
                  onChange={(percent) =>
                    set(
                      'Share of a part',
                      (d) => void (d.subTotals[k].of[i].share = percent / 100),
                      `${k} ${i}`,
                    )
                  }
                />
              </span>
              <IconButton
                label={`Take ${path.join(', ')} out`}
                className="!size-6"
                onClick={() => set('Take a part out', (d) => void d.subTotals[k].of.splice(i, 1))}
              >
                <Trash2 size={13} />
              </IconButton>
            </div>
          ))}
          <Select
            label={`Add to sub-total ${k + 1}`}
            value=""
            options={[{ value: '', label: 'Add a part …' }, ...options]}
            onChange={(i) =>
              i &&
              set('Add to a sub-total', (d) => {
                d.subTotals[k].of.push({ path: [...parts[Number(i)].of.path], share: 1 })
              })
            }
          />
        </div>
      ))}
      {strip.subTotals.length < mostSubTotals && (
        <Button
          look="quiet"
          onClick={() =>
            set(
              'Add a sub-total',
              (d) => void d.subTotals.push({ name: `Sub-total ${d.subTotals.length + 1}`, of: [] }),
            )
          }
        >
          <Plus size={14} aria-hidden /> Sub-total
        </Button>
      )}
      <Row label="Left over">
        <TextField
          label="Name of what is left over"
          value={strip.rest}
          onChange={(rest) => set('Name of what is left over', (d) => void (d.rest = rest))}
        />
      </Row>
      {stripProblems(s, tiles).map((problem) => (
        <p key={problem} className="px-1 text-xs text-error" role="alert">
          {problem}
        </p>
      ))}
    </>
  )
}
