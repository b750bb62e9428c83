'use client'
import type { TypeStyle } from '@/core/sheet/type-style'
import { Fold } from '../../kit/fold'
import { TypeStyleRows } from './type-style-rows'

/** The type of a part's several sorts of words. `onChange` gets a key by which edits of one choice become one. */
export function LetteringFold<Key extends string>({
  rows,
  styles,
  onChange,
}: {
  rows: Record<Key, string>
  styles: Record<NoInfer<Key>, TypeStyle>
  onChange: (key: NoInfer<Key>, next: Partial<TypeStyle>, merge: string) => void
}) {
  return (
    <Fold title="Lettering">
      {(Object.keys(rows) as Key[]).map((key) => (
        <TypeStyleRows
          key={key}
          label={rows[key]}
          style={styles[key]}
          onChange={(next) => onChange(key, next, `type ${key} ${Object.keys(next)[0]}`)}
        />
      ))}
    </Fold>
  )
}
