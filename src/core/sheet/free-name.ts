/** A name that no part of a sheet has yet: with a number behind, where the plain one is taken. */
export function freeName(parts: readonly { name: string }[], wished: string): string {
  const taken = new Set(parts.map(({ name }) => name))
  let name = wished
  for (let n = 2; taken.has(name); n++) name = `${wished} ${n}`
  return name
}
