import type { Draft } from 'immer'
import type { ComponentType, ReactNode } from 'react'
import type { Prepared } from '@/core/data/prepare'
import type { SentencePart } from '@/core/kinds/kind'
import type { KindId, Symbology } from '@/core/kinds/registry'
import type { Layer, MapSpec, MapView } from '@/core/map/spec'
import { editLayer } from '../edit-map'
import type { SizePx } from '../viewing'

export type PickerProps = {
  control: NonNullable<SentencePart['control']>
  layer: Layer
  prepared: Prepared
  /** The latest plan of the layer that has arrived; its kind knows what it is. */
  plan: unknown
  close: () => void
}
export type SettingsProps = Pick<PickerProps, 'layer' | 'prepared' | 'plan'>

/** What stands under the map beside the class bench. */
export type KindBench = {
  label: string
  Bench: ComponentType<BenchProps>
}
export type BenchProps = {
  map: MapSpec
  layer: Layer
  prepared: Prepared
  plan: unknown
  folded: boolean
  onFold: () => void
  /** The choice between the benches of a layer. */
  choice: ReactNode
}
export type HandsProps = Pick<BenchProps, 'map' | 'layer' | 'plan'> & { view: MapView; size: SizePx }

/**
 * The controls of a map kind: what opens under a word of its sentence, and its settings in the layer stack; for some
 * kinds a bench of their own.
 */
export type KindUi = {
  Picker: ComponentType<PickerProps>
  Settings: ComponentType<SettingsProps>
  bench?: KindBench
  /** What lies over the map while it is worked on by hand. */
  Hands?: ComponentType<HandsProps>
}

type SettingsOf<K extends KindId> = Extract<Symbology, { kind: K }>['settings']
/** A named edit of a layer's settings; edits with the same `merge` key become one step of undo. */
export type Change<S> = (name: string, recipe: (settings: Draft<S>) => void, merge?: string) => void

/**
 * The settings of a layer of one kind, and the way to change them. A layer that has become another kind stays
 * as it is.
 */
export function editingOf<K extends KindId>(
  kind: K,
  layer: Layer,
): { s: SettingsOf<K>; change: Change<SettingsOf<K>> } {
  return {
    s: layer.symbology.settings as SettingsOf<K>,
    change: (name, recipe, merge) =>
      editLayer(
        layer.id,
        name,
        (draft) => draft.symbology.kind === kind && recipe(draft.symbology.settings as Draft<SettingsOf<K>>),
        merge,
      ),
  }
}
