import { readdirSync } from 'node:fs'
import path from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import sqlite3 from 'sqlite3'
import { openDemo, openEmpty, send } from './folio'
import { withServer } from './own-server'

const complaintsOf = (page: Page): string[] => {
  const complaints: string[] = []
  page.on('console', (message) => {
    if (message.type() === 'error' || /Content Security Policy/.test(message.text()))
      complaints.push(message.text())
  })
  page.on('pageerror', (error) => complaints.push(error.message))
  return complaints
}

test('pages run under a strict policy without a complaint, at every desk', async ({ page }) => {
  const complaints = complaintsOf(page)
  await openDemo(page, 'data')
  for (const key of ['2', '3', '4']) {
    await page.keyboard.press(key)
    await page.waitForTimeout(1200)
  }
  const headers = (await page.request.get('/')).headers()
  expect(headers['content-security-policy']).toMatch(
    /default-src 'none'; script-src 'self' 'nonce-[\w+/=]+'; /,
  )
  expect(headers['permissions-policy']).toContain('camera=()')
  expect(headers['referrer-policy']).toBe('no-referrer')
  // Code that is put into the page from without does not run.
  const ran = await page.evaluate(() => {
    const script = document.createElement('script')
    script.textContent = 'window.intruder = true'
    document.body.append(script)
    const image = document.createElement('img')
    image.setAttribute('onerror', 'window.intruder = true')
    image.src = 'data:image/png;base64,AAAA'
    document.body.append(image)
    return new Promise((resolve) =>
      setTimeout(() => resolve((window as { intruder?: boolean }).intruder ?? false), 300),
    )
  })
  expect(ran).toBe(false)
  const ours = complaints.filter((words) => !/inline (script|event handler)|Executing inline/.test(words))
  expect(ours).toEqual([])
})

test('pages and routes answer under no other name, and nonsense is answered in our words', async ({
  page,
}) => {
  for (const address of ['/', '/folio/abc', '/api/folios', '/sign-in', '/_next/static/x.js']) {
    const response = await page.request.get(address, { headers: { host: 'elsewhere.example' } })
    expect([address, response.status()]).toEqual([address, 403])
    expect(await response.text()).toContain('not one of this server’s')
  }
  const asked = async (address: string) => {
    const response = await page.request.get(address)
    const body = (await response.json()) as { title: string }
    return [response.status(), body.title]
  }
  expect(await asked('/api/folios/a%00b')).toEqual([404, 'There is no such thing'])
  expect(await asked('/api/folios/abc/revisions/abc')).toEqual([404, 'There is no such version'])
  expect(await asked('/fonts/alegreya-latin-100-normal.woff')).toEqual([404, 'There is no such font'])
  const cross = await page.request.post('/api/folios', {
    data: { name: 'x' },
    headers: { origin: 'null' },
  })
  expect(cross.status()).toBe(403)
  const newer = await send(page, 'POST', '/api/demo').then((r) => r.json())
  const refused = await send(page, 'PUT', `/api/folios/${newer.folio.id}`, {
    baseRevision: 1,
    label: 'x',
    folio: { ...newer.folio, version: 99 },
  })
  expect(await refused.json()).toMatchObject({ title: 'The folio cannot be saved', status: 400 })
})

test('a team’s server asks for its word, opens for it, and not for another', async ({ page }) => {
  await withServer({ KEEN_PLOT_SECRET: 'weather vane' }, async ({ url }) => {
    expect((await page.request.get(`${url}/api/folios`)).status()).toBe(401)
    await page.goto(`${url}/?from=here`)
    await expect(page.getByRole('heading', { name: 'Come in' })).toBeVisible()
    const word = page.getByLabel('Word')
    await word.fill('weather')
    await page.getByRole('button', { name: 'Open the shelf' }).click()
    await expect(page.getByRole('alert').filter({ hasText: 'This is not the word' })).toBeVisible()
    await word.fill('weather vane')
    await page.getByRole('button', { name: 'Open the shelf' }).click()
    await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible()
    expect(page.url()).toBe(`${url}/?from=here`)
    const [cookie] = await page.context().cookies()
    expect(cookie).toMatchObject({ name: 'keen-session', httpOnly: true, sameSite: 'Strict' })
    // A button does nothing before the page has come to life.
    await page.waitForLoadState('networkidle')
    const status = async (value: string) =>
      (await fetch(`${url}/api/folios`, { headers: { cookie: `keen-session=${value}` } })).status
    const leave = async (how: string) => {
      await page.getByRole('button', { name: 'Leave this server' }).click()
      await page.getByRole('button', { name: how }).click()
      await expect(page.getByRole('heading', { name: 'Come in' })).toBeVisible()
    }
    expect(await status(cookie.value)).toBe(200)
    await leave('Leave This browser')
    expect((await page.request.get(`${url}/api/folios`)).status()).toBe(401)
    // What was left is over, also for whoever has kept its cookie.
    expect(await status(cookie.value)).toBe(401)
    const opened = await fetch(`${url}/api/session`, {
      method: 'POST',
      headers: { origin: url, 'content-type': 'application/json' },
      body: JSON.stringify({ word: 'weather vane' }),
    })
    const elsewhere = /keen-session=([^;]+)/.exec(opened.headers.get('set-cookie') ?? '')?.[1] ?? ''
    expect(await status(elsewhere)).toBe(200)
    await page.getByLabel('Word').fill('weather vane')
    await page.getByRole('button', { name: 'Open the shelf' }).click()
    await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible()
    await page.waitForLoadState('networkidle')
    await leave('Leave everywhere')
    expect(await status(elsewhere)).toBe(401)
    // A cookie of one’s own making opens nothing.
    const forged = `${cookie.value.slice(0, -3)}AAA`
    const answer = await fetch(`${url}/api/folios`, { headers: { cookie: `keen-session=${forged}` } })
    expect(answer.status).toBe(401)
    // Words are not tried out by the dozen.
    const tries: number[] = []
    for (let i = 0; i < 12; i++)
      tries.push(
        (
          await fetch(`${url}/api/session`, {
            method: 'POST',
            headers: { origin: url, 'content-type': 'application/json' },
            body: JSON.stringify({ word: `guess ${i}` }),
          })
        ).status,
      )
    expect(tries.slice(0, 10)).toEqual(Array(10).fill(403))
    expect(tries.slice(10)).toEqual([429, 429])
  })
})

test('a damaged folio leaves the shelf whole and is brought back as its last whole version was', async ({
  page,
}) => {
  await withServer({}, async ({ url }, data) => {
    await page.goto(url)
    await page.getByRole('button', { name: 'New folio' }).click()
    await page.getByRole('textbox', { name: 'Name of the folio' }).fill('Torn')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('status').filter({ hasText: /^Saved/ })).toBeVisible()
    await expect(page.getByRole('button', { name: /^Saved just now|^Saved/ })).toBeVisible()
    await new Promise<void>((resolve, reject) => {
      const db = new sqlite3.Database(path.join(data, 'keen-plot.sqlite'))
      db.run(`UPDATE folios SET document = substr(document, 1, 60) WHERE name = 'Torn'`, (error) =>
        error ? reject(error) : db.close(() => resolve()),
      )
    })
    await page.goto(url)
    await expect(page.getByRole('link', { name: 'Open A country that reads' })).toBeVisible()
    const torn = page.getByRole('link', { name: 'Open Torn' })
    await torn.click()
    await expect(page.getByRole('heading', { name: '“Torn” is damaged' })).toBeVisible()
    // From then on the shelf knows.
    await page.goto(url)
    await expect(torn).toContainText('damaged')
    await torn.click()
    await page.getByRole('button', { name: /^Bring back revision/ }).click()
    await expect(page.getByRole('main', { name: 'data desk' })).toBeVisible()
  })
})

test('a full disk is said calmly, nothing is lost, and saving goes on when there is room', async ({
  page,
}) => {
  const id = await openEmpty(page, 'data')
  let full = true
  await page.route(`**/api/folios/${id}`, (route) =>
    full && route.request().method() === 'PUT'
      ? route.fulfill({
          status: 507,
          contentType: 'application/problem+json',
          body: JSON.stringify({ status: 507, title: 'The disk is full', detail: '', code: 'disk-full' }),
        })
      : route.continue(),
  )
  const name = page.getByRole('textbox', { name: 'Name of the folio' })
  await name.fill('Still here')
  await page.keyboard.press('Enter')
  const bar = page.getByRole('status').getByRole('button', { name: /Earlier versions$/ })
  const said = page.getByText('The disk is full; nothing is lost, saving goes on when there is room.')
  await expect(said).toBeVisible()
  await name.fill('Still here, changed')
  await page.keyboard.press('Enter')
  full = false
  await expect(bar).toHaveText(/^Saved/)
  await expect(said).toHaveCount(0)
  await page.reload()
  await expect(name).toHaveValue('Still here, changed')
})

test('a save whose answer is lost is sent again and not taken for somebody else’s', async ({ page }) => {
  const id = await openEmpty(page, 'data')
  let lost = 0
  await page.route(`**/api/folios/${id}`, async (route) => {
    if (route.request().method() !== 'PUT' || lost++ > 0) return route.continue()
    // It reaches the server; the answer does not come back.
    await route.fetch()
    await route.abort('connectionreset')
  })
  const name = page.getByRole('textbox', { name: 'Name of the folio' })
  await name.fill('Once')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/cannot be reached; your work stays in this window/)).toBeVisible()
  await name.fill('Twice')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /^Saved/ })).toBeVisible()
  await expect(page.getByRole('alertdialog')).toHaveCount(0)
  await page.reload()
  await expect(name).toHaveValue('Twice')
})

test('the head of every file is answered alone, and leaves none of them open', async ({ page }) => {
  await withServer({}, async ({ url, child }) => {
    const headers = { origin: url, 'content-type': 'application/json' }
    const asked = async (method: string, address: string, data?: unknown) =>
      page.request.fetch(`${url}${address}`, { method, headers, data: data === undefined ? undefined : data })
    const done = async (jobId: string) => {
      const events = await (await asked('GET', `/api/jobs/${jobId}`)).text()
      return (
        JSON.parse(events.trim().split('\n\n').at(-1)?.slice(6) ?? '') as {
          result: { id: string; downloadId: string }
        }
      ).result
    }
    const { folio } = (await (await asked('POST', '/api/demo')).json()) as {
      folio: { id: string; sheets: { id: string }[]; datasets: { source: { contentId: string } }[] }
    }
    const print = (await (
      await asked('POST', `/api/folios/${folio.id}/prints`, {
        sheetId: folio.sheets[0].id,
        format: 'png',
        dpi: 40,
      })
    ).json()) as { jobId: string }
    const file = (await (
      await asked('POST', `/api/folios/${folio.id}/file`, { withFine: false })
    ).json()) as {
      jobId: string
    }
    const addresses = [
      ...folio.datasets.slice(0, 3).map(({ source }) => `/api/contents/${source.contentId}`),
      `/api/prints/${(await done(print.jobId)).id}`,
      `/api/downloads/${(await done(file.jobId)).downloadId}`,
      `/api/folios/${folio.id}`,
      `/api/folios/${folio.id}/thumbnail`,
      '/api/backups/copy',
      '/fonts/source-sans-3-latin-400-normal.woff',
    ]
    const open = () => readdirSync(`/proc/${child.pid}/fd`).length
    for (const address of addresses) {
      const head = await asked('HEAD', address)
      expect([address, head.status(), (await head.body()).length]).toEqual([address, 200, 0])
    }
    const before = open()
    for (let i = 0; i < 400; i++) await asked('HEAD', addresses[i % addresses.length])
    await expect.poll(() => open() - before).toBeLessThan(20)
    const whole = await asked('GET', addresses[0])
    expect((await whole.body()).length).toBeGreaterThan(1000)
  })
})
