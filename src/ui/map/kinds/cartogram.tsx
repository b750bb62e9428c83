'use client'
import { useEffect, useState } from 'react'
import { cartogramForms, isTiled, type CartogramForm } from '@/core/cartogram/spec'
import type { CartogramPlan } from '@/core/kinds/cartogram/plan'
import type { CartogramSettings } from '@/core/kinds/cartogram/spec'
import { kindOf, symbologyOf } from '@/core/kinds/registry'
import { kindData } from '@/core/map/layer-plan'
import { ask } from '@/workers/client'
import { formatNumber } from '@/core/classify/labels'
import { Button, Check, Row, Section, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { folioNow, useDocument } from '../../shell/folio-store'
import { editMap, switchKind } from '../edit-map'
import { Gallery, type Alternative } from '../gallery/gallery'
import { useLooked } from '../gallery/looked'
import { ShadePicker, ShadeSettings } from './choropleth'
import { FieldPicker, numberOptions } from './field-picker'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { useShapesSaid } from './shapes-said'
import { TileHands } from '../tiles/tile-hands'
import { useTileHand } from '../tiles/there'

const formLabels: Record<CartogramForm, string> = {
  'own shapes': 'own shapes, resized',
  continuous: 'stretched, borders kept',
  circles: 'circles',
  squares: 'squares',
  'hexagon tiles': 'hexagons of one size',
  'square tiles': 'squares of one size',
}
const formOptions = cartogramForms.map((value) => ({ value, label: formLabels[value] }))

function Picker(props: PickerProps) {
  const { control, layer, prepared, close } = props
  const { s, change } = editingOf('cartogram', layer)
  if (control === 'shape')
    return (
      <ChoiceList
        value={s.form}
        options={formOptions}
        onPick={(form) => {
          change(`As ${formLabels[form]}`, (d) => void (d.form = form))
          close()
        }}
      />
    )
  if (control === 'size')
    return (
      <FieldPicker
        value={s.size}
        prepared={prepared}
        onPick={(field, label) => {
          change(`Size by ${label}`, (d) => void (d.size = field))
          close()
        }}
      />
    )
  return <ShadePicker {...props} />
}

function Settings(props: SettingsProps) {
  const { layer, prepared } = props
  const { s, change } = editingOf('cartogram', layer)
  const plan = props.plan as CartogramPlan | null
  const { remark, figures } = useShapesSaid(layer)
  const { unit } = prepared.fieldMeta(s.size)
  return (
    <>
      <Section title="Shapes">
        <Row label="Each area">
          <Select
            label="What stands for an area"
            value={s.form}
            options={formOptions}
            onChange={(form) => change(`As ${formLabels[form]}`, (d) => void (d.form = form))}
          />
        </Row>
        {!isTiled(s.form) && (
          <Row label="Sized by">
            <Select
              label="Field of the sizes"
              value={s.size}
              options={numberOptions(prepared)}
              onChange={(field) =>
                change(`Size by ${prepared.fieldMeta(field).label}`, (d) => void (d.size = field))
              }
            />
          </Row>
        )}
        {s.form === 'continuous' && <Following layer={layer} />}
        {isTiled(s.form) && <ByHand layer={layer} />}
        <Row label="Together">
          <NumberField
            label="Size of all shapes together"
            value={Math.round(100 * s.fill)}
            unit="%"
            min={1}
            max={400}
            step={5}
            onChange={(percent) => change('Size of the shapes', (d) => void (d.fill = percent / 100), 'fill')}
          />
          <span className="text-xs text-muted">of the ground</span>
        </Row>
        <ul aria-label="Figures of the cartogram" className="px-1 text-xs text-muted">
          {plan && plan.m2 > 0 && (
            <li>
              {isTiled(s.form) ? `one tile: ${ground(plan.m2)}` : `${ground(1e6, plan.m2)} ${unit} to 1 km²`}
            </li>
          )}
          {figures.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
        {remark && (
          <p className="px-1 text-xs text-caution" role="status">
            {remark}
          </p>
        )}
        <Forms {...props} />
      </Section>
      <ShadeSettings {...props} />
    </>
  )
}

/** Whether tiles are moved by hand, and how to have them find their places again. */
function ByHand({ layer }: Pick<SettingsProps, 'layer'>) {
  const { s, change } = editingOf('cartogram', layer)
  const { moving } = useTileHand()
  const ofThis = s.tiles !== null && s.form.startsWith(s.tiles.shape.slice(0, -1))
  return (
    <>
      <div className="flex min-h-8 items-center justify-between">
        <Check
          label="Move tiles by hand"
          checked={moving}
          onChange={(on) => useTileHand.setState({ moving: on })}
        />
        {s.tiles !== null && (
          <Button
            look="quiet"
            className="!h-7 !px-2"
            onClick={() => change('Lay tiles out anew', (d) => void (d.tiles = null))}
          >
            Lay out anew
          </Button>
        )}
      </div>
      {s.tiles !== null && !ofThis && (
        <p className="px-1 text-xs text-caution" role="status">
          {s.tiles.shape === 'hexagons' ? 'Hexagons' : 'Squares'} were placed by hand; these find their places
          by themselves. Moving one lets go of the others.
        </p>
      )}
    </>
  )
}

/** Whether rivers, towns and all else on the map is stretched with the areas. */
function Following({ layer }: Pick<SettingsProps, 'layer'>) {
  const map = useDocument().maps.find(({ layers }) => layers.some(({ id }) => id === layer.id))
  if (!map) return null
  const follows = map.stretchedBy === layer.id
  const others = map.layers.filter(({ id, visible }) => id !== layer.id && visible).length
  return (
    <>
      <Check
        label="Other layers follow"
        checked={follows}
        onChange={(on) =>
          editMap(map.id, on ? 'Other layers follow' : 'Other layers stay', (draft) => {
            draft.stretchedBy = on ? layer.id : null
          })
        }
      />
      {!follows && others > 0 && (
        <p className="px-1 text-xs text-caution" role="status">
          {others === 1 ? 'Another layer lies' : `${others} other layers lie`} where the ground was, not where
          it is now.
        </p>
      )}
    </>
  )
}

/** “412 km²”, or how many of something there are to so much ground. */
function ground(m2: number, each?: number): string {
  const value = each ? m2 / each : m2 / 1e6
  const written = formatNumber(value, value < 10 ? 1 : 0)
  return each ? written : `${written} km²`
}

/** What blocks take over of a cartogram: how it is shaded and sized, but not its outlines. */
const takenAlong = (settings: CartogramSettings): object =>
  Object.fromEntries(
    Object.entries(settings).filter(([key]) => !['form', 'fill', 'outline', 'mask'].includes(key)),
  )

/** The same areas in every form, on the map. */
function Forms({ layer, prepared }: SettingsProps) {
  const { s, change } = editingOf('cartogram', layer)
  const [open, setOpen] = useState(false)
  const looked = useLooked(layer, prepared)
  const plane = looked?.map.projection
  const [alternatives, setAlternatives] = useState<Alternative[] | null>(null)
  useEffect(() => {
    if (!open || !plane) return
    let here = true
    setAlternatives(null)
    const data = kindData(prepared)
    const blocks = kindOf('blocks').settings.parse({
      ...(kindOf('blocks').initial(data) as object),
      ...takenAlong(s),
    })
    const ways = [
      ...cartogramForms.map((form) => ({
        id: form as string,
        label: formLabels[form],
        layer: { ...layer, symbology: symbologyOf('cartogram', { ...s, form }) },
      })),
      {
        id: 'blocks',
        label: 'blocks that are counted',
        layer: { ...layer, symbology: symbologyOf('blocks', blocks) },
      },
    ]
    void Promise.all(
      ways.map(async (way): Promise<Alternative> => {
        const said = await ask(folioNow(), (worker) => worker.shapesSaid(way.layer, plane, false)).catch(
          () => null,
        )
        return { ...way, detail: [...(said?.figures ?? []), said?.remark ?? ''].filter(Boolean).join(' · ') }
      }),
    ).then((made) => here && setAlternatives(made))
    return () => void (here = false)
    // eslint-disable-next-line react-hooks/exhaustive-deps -- settings do not change under an open dialog
  }, [open, plane, layer])
  return (
    <div className="mt-1">
      <Button onClick={() => setOpen(true)}>Every form on this map…</Button>
      {looked && (
        <Gallery
          open={open}
          onClose={() => setOpen(false)}
          title="The same areas in every form"
          order="In the order from their own shapes to tiles of one size and blocks."
          looked={looked}
          alternatives={alternatives}
          chosen={s.form}
          onAdopt={(id) => {
            if (id === 'blocks') return switchKind(layer, prepared, 'blocks')
            const form = id as CartogramForm
            change(`As ${formLabels[form]}`, (d) => void (d.form = form))
          }}
        />
      )}
    </div>
  )
}

export const cartogramUi: KindUi = { Picker, Settings, Hands: TileHands }
