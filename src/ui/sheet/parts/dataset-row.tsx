'use client'
import { Row, Select } from '../../kit/controls'
import { usePrepared } from '../../shell/contents'

/** Which dataset a table or chart follows. */
export function DatasetRow({ datasetId, onChange }: { datasetId: string; onChange: (id: string) => void }) {
  const datasets = usePrepared()
  const known = datasets.has(datasetId)
  return (
    <Row label="Of">
      <Select
        label="Dataset"
        value={known ? datasetId : ''}
        options={[
          ...(known ? [] : [{ value: '', label: 'gone' }]),
          ...[...datasets].map(([id, { entry }]) => ({ value: id, label: entry.name })),
        ]}
        onChange={(id) => id && onChange(id)}
      />
    </Row>
  )
}

/** The fields of a dataset as choices. */
export function useFieldOptions(
  datasetId: string,
  sort: 'number' | 'all',
): { value: string; label: string }[] {
  const prepared = usePrepared().get(datasetId)
  if (!prepared) return []
  return prepared.dataset.fields
    .filter(({ column }) => sort === 'all' || column.kind === 'number')
    .map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label }))
}
