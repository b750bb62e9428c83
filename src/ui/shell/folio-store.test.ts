import { beforeEach, describe, expect, it, vi } from 'vitest'
import { openDemo } from '../../../demo/open'
import { saveNow } from './autosave'
import { editFolio, useFolio } from './folio-store'
import { whenWords } from './time'

const { folio } = openDemo()
const state = () => useFolio.getState()
const rename = (name: string) => editFolio('Rename', (draft) => void (draft.name = name))
const answers = (...responses: (() => Promise<Response>)[]) => {
  const calls: { baseRevision: number; folio: { name: string }; saveKey: string }[] = []
  vi.stubGlobal('fetch', (_: string, { body }: { body: string }) => {
    calls.push(JSON.parse(body))
    const next = responses.shift()
    if (!next) throw new Error('One request too many.')
    return next()
  })
  return calls
}
const ok = (revision: number) => async () => Response.json({ revision, savedAt: '2026-01-31T12:00:00Z' })

beforeEach(() => {
  vi.useRealTimers()
  state().adopt(folio, 1, '2026-01-31T10:00:00Z')
})

describe('saving what is done', () => {
  it('sends the folio with the revision it was made from', async () => {
    const calls = answers(ok(2))
    rename('Other')
    expect(state().save.status).toBe('unsaved')
    await saveNow()
    expect(calls.map((c) => [c.baseRevision, c.folio.name])).toEqual([[1, 'Other']])
    expect([state().save.status, state().revision]).toEqual(['saved', 2])
    await saveNow()
    expect(calls).toHaveLength(1)
  })

  it('saves what was edited while a slow save was under way, though nobody touches it again', async () => {
    let finish: (response: Response) => void = () => undefined
    const calls = answers(() => new Promise((resolve) => (finish = resolve)), ok(3))
    rename('First')
    const under = saveNow()
    rename('Second')
    await saveNow()
    finish(Response.json({ revision: 2, savedAt: '2026-01-31T12:00:00Z' }))
    await under
    expect(state().save.status).toBe('unsaved')
    await vi.waitFor(() => expect(state().save.status).toBe('saved'), 3000)
    expect(calls.map((c) => [c.baseRevision, c.folio.name])).toEqual([
      [1, 'First'],
      [2, 'Second'],
    ])
  })

  it('keeps everything when the server refuses or cannot be reached', async () => {
    answers(
      async () =>
        new Response(
          JSON.stringify({ title: 'changed', status: 409, revision: 5, changedAt: '2026-01-31T11:00:00Z' }),
          { status: 409 },
        ),
    )
    rename('Mine')
    await saveNow()
    expect(state().save).toEqual({ status: 'refused', revision: 5, changedAt: '2026-01-31T11:00:00Z' })
    rename('Mine still')
    expect(state().save.status).toBe('refused')
    expect(state().history.folio.name).toBe('Mine still')

    state().adopt(folio, 1, '')
    answers(async () => Promise.reject(new TypeError('no network')))
    rename('Alone')
    await saveNow()
    expect(state().save).toMatchObject({
      status: 'failed',
      message: expect.stringContaining(
        'Keen Plot’s server cannot be reached; your work stays in this window',
      ),
    })
    expect(state().history.folio.name).toBe('Alone')
  })

  it('sends a save whose answer was lost again as it was, before anything newer', async () => {
    const sent = answers(async () => Promise.reject(new TypeError('connection reset')), ok(2), ok(3))
    rename('First')
    await saveNow()
    rename('Second')
    await saveNow()
    expect(state().save.status).toBe('unsaved')
    await saveNow()
    expect([state().save.status, state().revision]).toEqual(['saved', 3])
    expect(sent.map((c) => [c.baseRevision, c.folio.name])).toEqual([
      [1, 'First'],
      [1, 'First'],
      [2, 'Second'],
    ])
    expect(sent[1].saveKey).toBe(sent[0].saveKey)
    expect(sent[2].saveKey).not.toBe(sent[0].saveKey)
  })
})

describe('undo across desks', () => {
  it('takes back edits of maps and sheets in turn, and a whole version at once', () => {
    editFolio('Classes', (draft) => void draft.maps[0].layers.pop())
    state().openDesk('sheet')
    editFolio('Parts', (draft) => void draft.sheets[0].parts.pop())
    state().undo()
    state().undo()
    expect(state().history.folio).toEqual(folio)
    state().redo()
    expect(state().history.folio.maps[0].layers).toHaveLength(folio.maps[0].layers.length - 1)
    state().replace('Back to revision 1', { ...folio, name: 'Earlier' })
    state().undo()
    expect(state().history.folio.name).toBe(folio.name)
  })
})

it('times are told as people tell them', () => {
  const now = new Date(2026, 0, 31, 15, 0)
  expect(whenWords(new Date(2026, 0, 31, 9, 5).toISOString(), now)).toBe('09:05')
  expect(whenWords(new Date(2026, 0, 30, 23, 59).toISOString(), now)).toBe('yesterday')
  expect(whenWords(new Date(2025, 10, 18).toISOString(), now)).toBe('18 November 2025')
})
