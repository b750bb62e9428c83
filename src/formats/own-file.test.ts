import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { writeLooks, readLooks } from './looks-file/looks-file'
import { ownText, readOwn } from './own-file'
import { readSteps } from './steps-file/steps-file'
import { readStyles } from './styles-file/styles-file'
import { readTemplateFile } from './template-file/template-file'

const none = 'x.json is no list'

describe('a file of our own', () => {
  it('is read where it is one', () => {
    expect(readOwn(z.array(z.number()), '[1, 2]', { none })).toEqual([1, 2])
    const looks = { typeStyles: [], colours: ['#aabbcc'], ramps: [] }
    expect(readLooks(writeLooks(looks), 'x.json')).toEqual(looks)
  })

  it('is no larger than one can be, before anything of it is read', async () => {
    const never = () => Promise.reject(new Error('It was read.'))
    await expect(ownText({ name: 'x.json', size: 1_048_577, text: never })).rejects.toThrow(
      'x.json is larger than 1 MB',
    )
    await expect(ownText({ name: 'x.json', size: 9, text: () => Promise.resolve('[]') })).resolves.toBe('[]')
    expect(() => readOwn(z.array(z.number()), `[${' '.repeat(2_000_000)}]`, { none })).toThrow(
      'x.json is no list: it is larger than 1 MB.',
    )
  })

  it('is refused in a moment where it is brackets, thousands of things that are none, or something else', () => {
    const deep = '['.repeat(400_000) + ']'.repeat(400_000)
    const wide = `[${'{},'.repeat(300_000)}{}]`
    const readers = [readLooks, readStyles, readSteps, (text: string) => readTemplateFile(text)]
    for (const read of readers) {
      const began = performance.now()
      expect(() => read(deep, 'x.json')).toThrow('nested more than 64 levels deep')
      expect(() => read(wide, 'x.json')).toThrow('there are more than 200,000')
      expect(() => read(`{"styles":${wide},"steps":[]}`, 'x.json')).toThrow('there are more than 200,000')
      for (const text of ['', '{', 'null', '5', '"x"', '{}', '[]', '{"__proto__":{"format":"keen-looks"}}'])
        expect(() => read(text, 'x.json')).toThrow(/^(x\.json is|This is) no /)
      expect(performance.now() - began).toBeLessThan(2000)
    }
  })
})
