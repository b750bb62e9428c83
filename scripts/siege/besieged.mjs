import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { startServer } from '../serve.mjs'

export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
export const octets = 'application/octet-stream'

/** Numbers by chance that come again with the same seed. */
export function chances(seed) {
  let state = seed
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647
}

const isSentAsItIs = (body) => body instanceof Uint8Array || body instanceof ReadableStream

/** A server of its own on a data folder, with what is needed to ask it and to look at it from outside. */
export async function besieged(data, environment = {}) {
  const server = await startServer(data, environment)
  const { url, child } = server

  const asked = (method, address, body, { type = 'application/json', signal } = {}) =>
    fetch(`${url}${address}`, {
      method,
      signal,
      headers: { origin: url, ...(body === undefined ? {} : { 'content-type': type }) },
      // Bytes are sent as they are, whatever they are said to be.
      body: body === undefined || isSentAsItIs(body) ? body : JSON.stringify(body),
      ...(body instanceof ReadableStream && { duplex: 'half' }),
    })

  /** A connection that was kept may be closed just when it is used again: who only reads asks once more, as browsers do. */
  const ask = (method, address, body, how) =>
    asked(method, address, body, how).catch((error) => {
      const isClosed = ['ECONNRESET', 'EPIPE'].includes(error.cause?.code)
      if (!isClosed || (method !== 'GET' && method !== 'HEAD')) throw error
      return asked(method, address, body, how)
    })

  const send = async (method, address, body, type) => {
    const response = await ask(method, address, body, { type })
    if (!response.ok) throw new Error(`${method} ${address}: ${response.status} ${await response.text()}`)
    return response.status === 204 ? null : response.json()
  }

  /** Follows a job to its end; where `cancelAfter` is given, cancels it then. */
  const follow = async (jobId, cancelAfter) => {
    if (cancelAfter !== undefined) {
      await pause(cancelAfter)
      await ask('DELETE', `/api/jobs/${jobId}`)
    }
    const events = await (await fetch(`${url}/api/jobs/${jobId}`)).text()
    return JSON.parse(events.trim().split('\n\n').at(-1).slice('data: '.length))
  }

  const status = (key) =>
    Number(new RegExp(`${key}:\\s+(\\d+)`).exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))[1])

  return {
    ...server,
    data,
    ask,
    send,
    follow,
    /** Memory of the server, in MB. */
    rss: () => status('VmRSS') / 1024,
    /** Files and connections that it holds open. */
    descriptors: () => readdirSync(`/proc/${child.pid}/fd`).length,
    /** Its processes of tasks, by number. */
    tasks: () => processesOf(child.pid),
    /** Files in the data folder that are none of the stored ones. */
    leftovers: () => leftoversIn(data),
  }
}

function processesOf(parent) {
  const listed = execFileSync('ps', ['-o', 'pid=,args=', '--ppid', String(parent)], { encoding: 'utf8' })
  return listed
    .split('\n')
    .filter((line) => line.includes('tasks/process.mjs'))
    .map((line) => Number(line.trim().split(' ')[0]))
}

/** Drafts, and what lies in folders of tasks, but for what keeps a folder. */
function leftoversIn(data) {
  const files = []
  const look = (folder) => {
    for (const one of readdirSync(folder, { withFileTypes: true })) {
      const place = path.join(folder, one.name)
      if (one.isDirectory()) look(place)
      else files.push(path.relative(data, place))
    }
  }
  look(data)
  return files.filter((file) => file.endsWith('.part') || /^scratch\/[^/]+\/[^/]+\/(?!file$)/.test(file))
}
