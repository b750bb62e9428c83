import { expect, it } from 'vitest'
import { z } from 'zod'
import { issueWords } from './issue-words'

it('what does not fit a schema is said in our words, with its place', () => {
  const schema = z.object({
    name: z.string().min(2),
    list: z.array(z.object({ size: z.number().max(5) })),
    kind: z.enum(['a', 'b']).optional(),
    own: z.custom<number>((v) => v === 1, 'the value should be one').optional(),
  })
  const words = (value: unknown): string => {
    const { error } = schema.safeParse(value)
    return error ? issueWords(error) : ''
  }
  expect(words('x')).toBe('at the top, the value should be an object')
  expect(words({ list: [] })).toBe('at name, a value is missing')
  expect(words({ name: 'x', list: [] })).toBe('at name, there are fewer than 2')
  expect(words({ name: 'xx', list: [{ size: '1' }] })).toBe(
    'at list › 0 › size, the value should be a number',
  )
  expect(words({ name: 'xx', list: [{ size: 9 }] })).toBe('at list › 0 › size, the value is above 5')
  expect(words({ name: 'xx', list: [], kind: 'c' })).toBe(
    'at kind, the value is none of those that are known',
  )
  expect(words({ name: 'xx', list: [], own: 2 })).toBe('at own, the value should be one')
})
