'use client'
import { Button } from '@/ui/kit/controls'

/** In place of a page that could not be made, whatever the reason. */
export default function PageProblem({ reset }: { reset: () => void }) {
  return (
    <main className="grid h-full place-items-center">
      <div role="alert" className="max-w-sm text-center">
        <h1 className="font-serif text-xl font-semibold">This page could not be made</h1>
        <p className="mt-2 text-muted">
          The server could not read its data: its disk or its database may be at fault. What was saved is not
          touched; what the server wrote into its log says more.
        </p>
        <Button look="primary" className="mt-4" onClick={reset}>
          Try again
        </Button>
      </div>
    </main>
  )
}
