import type { Dataset } from '../dataset'

/** Where a field of a prepared dataset comes from; its label and role are kept there. */
export type FieldOrigin = { datasetId: string; key: string }

export type Preparing = { dataset: Dataset; origins: Map<string, FieldOrigin> }

/** The prepared dataset behind an id, for steps that draw on another dataset. */
export type Others = (datasetId: string) => Preparing | null
