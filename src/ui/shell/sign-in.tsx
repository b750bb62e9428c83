'use client'
import { useState } from 'react'
import { Button } from '../kit/controls'
import { api, ApiProblem } from './api'
import { Wordmark } from './wordmark'

/** The page at the door of a team's server: asks for the word that the team shares. */
export function SignIn({ to }: { to: string }) {
  const [word, setWord] = useState('')
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const enter = async () => {
    setBusy(true)
    setProblem(null)
    try {
      await api('POST', '/api/session', { word })
      // The whole page is asked for anew, with the session.
      window.location.assign(to)
    } catch (error) {
      setBusy(false)
      setProblem(error instanceof ApiProblem ? `${error.title}. ${error.detail}` : String(error))
    }
  }
  return (
    <main className="grid h-full place-items-center">
      <form
        className="w-80 border border-line bg-base-100 p-6 shadow-[0_2px_6px_rgb(0_0_0/0.12)]"
        onSubmit={(event) => {
          event.preventDefault()
          void enter()
        }}
      >
        <Wordmark />
        <h1 className="mt-5 font-serif text-xl font-semibold">Come in</h1>
        <p className="mt-1 text-muted">This server is a team’s. Give the word that the team shares.</p>
        <label className="mt-4 block">
          <span className="text-xs text-muted">Word</span>
          <input
            type="password"
            autoFocus
            autoComplete="current-password"
            className="control mt-1 !h-9 w-full"
            value={word}
            onChange={(event) => setWord(event.target.value)}
          />
        </label>
        {problem && (
          <p role="alert" className="mt-2 text-xs text-error">
            {problem}
          </p>
        )}
        <Button type="submit" look="primary" className="mt-4 !h-9 w-full" disabled={busy || word === ''}>
          Open the shelf
        </Button>
      </form>
    </main>
  )
}
