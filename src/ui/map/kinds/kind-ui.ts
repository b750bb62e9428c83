import type { ComponentType } from 'react'
import type { Prepared } from '@/core/data/prepare'
import type { SentencePart } from '@/core/kinds/kind'
import type { Layer } from '@/core/map/spec'

export type PickerProps = { control: NonNullable<SentencePart['control']>; layer: Layer; prepared: Prepared; close: () => void }
export type SettingsProps = { layer: Layer; prepared: Prepared }

/** The controls of a map kind: what opens under a word of its sentence, and its settings in the layer stack. */
export type KindUi = { Picker: ComponentType<PickerProps>; Settings: ComponentType<SettingsProps> }
