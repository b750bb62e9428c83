import { z, type ZodType } from 'zod'

type Entries = Record<string, { settings: ZodType }>

/** What a folio holds of an entry of a registry: its name under `Tag`, its settings, and what all have. */
export type Tagged<E extends Entries, Tag extends string, Common> = {
  [K in keyof E & string]: { [T in Tag]: K } & Common & { settings: z.infer<E[K]['settings']> }
}[keyof E & string]

/**
 * The schema of all entries of a registry: the value under `tag` says which one it is, and with that what its
 * settings are. `common` are the keys that every entry has besides.
 */
export function taggedUnion<E extends Entries, Tag extends string, C extends Record<string, ZodType>>(
  tag: Tag,
  entries: E,
  common: C,
): ZodType<Tagged<E, Tag, z.infer<z.ZodObject<C>>>> {
  const options = Object.entries(entries).map(([name, { settings }]) =>
    z.object({ [tag]: z.literal(name), ...common, settings }),
  )
  // A union whose members are made in a loop has no type of its own; `Tagged` is that of the same members.
  return z.discriminatedUnion(tag, options as never) as unknown as ZodType<
    Tagged<E, Tag, z.infer<z.ZodObject<C>>>
  >
}
