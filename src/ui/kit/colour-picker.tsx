'use client'
import { Pipette } from 'lucide-react'
import { createContext, useContext, useState } from 'react'
import { HexColorInput, HexColorPicker } from 'react-colorful'
import { isHex } from '@/core/scene/hex'
import { fromCmyk, fromOklch, toCmyk, toOklch } from '@/core/colour/oklch'
import { IconButton, Segments } from './controls'
import { NumberField } from './number-field'

/** Colours that are in use in the document, the commonest first. */
export const PaletteContext = createContext<() => string[]>(() => [])

type Entry = 'hex' | 'oklch' | 'cmyk'
const entries: { value: Entry; label: string }[] = [
  { value: 'hex', label: 'Hex' },
  { value: 'oklch', label: 'OKLCH' },
  { value: 'cmyk', label: 'CMYK' },
]

type Dropper = { open: () => Promise<{ sRGBHex: string }> }
const dropperOf = (): (new () => Dropper) | undefined =>
  (globalThis as { EyeDropper?: new () => Dropper }).EyeDropper

/** A colour by eye, from the page, from the document, or by its numbers. */
export function ColourPicker({
  label,
  value,
  onChange,
}: {
  label: string
  value: string
  onChange: (value: string) => void
}) {
  const [entry, setEntry] = useState<Entry>('hex')
  const palette = useContext(PaletteContext)
  const set = (next: string) => isHex(next) && onChange(next.toLowerCase())
  const Dropper = dropperOf()
  return (
    <div className="w-[216px]">
      <HexColorPicker color={value} onChange={set} style={{ width: 216, height: 140 }} />
      <div className="mt-2 flex items-center gap-1">
        <div className="flex-1">
          <Segments label="Entered as" value={entry} options={entries} onChange={setEntry} />
        </div>
        {Dropper && (
          <IconButton
            label="Pick a colour from the screen"
            onClick={() =>
              void new Dropper().open().then(
                ({ sRGBHex }) => set(sRGBHex),
                () => undefined,
              )
            }
          >
            <Pipette size={15} />
          </IconButton>
        )}
      </div>
      <div className="mt-1.5">
        {entry === 'hex' && (
          <HexColorInput
            aria-label={`${label}, hexadecimal`}
            prefixed
            color={value}
            onChange={set}
            className="control w-full uppercase"
          />
        )}
        {entry === 'oklch' && <OklchEntry label={label} value={value} set={set} />}
        {entry === 'cmyk' && <CmykEntry label={label} value={value} set={set} />}
      </div>
      <ul className="mt-2 flex flex-wrap gap-1" aria-label="Colours of the folio">
        {palette().map((colour) => (
          <li key={colour}>
            <button
              type="button"
              aria-label={`Colour ${colour}`}
              title={colour.toUpperCase()}
              aria-pressed={colour === value}
              className="block size-4 rounded-sm border border-line hover:border-primary"
              style={{ background: colour }}
              onClick={() => set(colour)}
            />
          </li>
        ))}
      </ul>
    </div>
  )
}

function OklchEntry({ label, value, set }: { label: string; value: string; set: (next: string) => void }) {
  const colour = toOklch(value)
  return (
    <div className="grid grid-cols-3 gap-1">
      <NumberField
        label={`${label}, lightness`}
        value={colour.l * 100}
        unit="%"
        min={0}
        max={100}
        step={1}
        decimals={1}
        onChange={(l) => set(fromOklch({ ...colour, l: l / 100 }))}
      />
      <NumberField
        label={`${label}, chroma`}
        value={colour.c}
        min={0}
        max={0.4}
        step={0.01}
        decimals={3}
        onChange={(c) => set(fromOklch({ ...colour, c }))}
      />
      <NumberField
        label={`${label}, hue`}
        value={colour.h}
        unit="°"
        min={0}
        max={360}
        step={5}
        decimals={0}
        onChange={(h) => set(fromOklch({ ...colour, h }))}
      />
    </div>
  )
}

function CmykEntry({ label, value, set }: { label: string; value: string; set: (next: string) => void }) {
  const inks = toCmyk(value)
  const names = { c: 'cyan', m: 'magenta', y: 'yellow', k: 'black' } as const
  return (
    <>
      <div className="grid grid-cols-4 gap-1">
        {(Object.keys(names) as (keyof typeof names)[]).map((ink) => (
          <NumberField
            key={ink}
            label={`${label}, ${names[ink]} in percent`}
            value={inks[ink]}
            min={0}
            max={100}
            step={5}
            decimals={0}
            onChange={(n) => set(fromCmyk({ ...inks, [ink]: n }))}
          />
        ))}
      </div>
      <p className="mt-1 text-xs text-muted">Cyan, magenta, yellow, black in %, without a press profile.</p>
    </>
  )
}
