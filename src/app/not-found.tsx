import Link from 'next/link'

export default function NotFound() {
  return (
    <main className="grid h-full place-items-center">
      <div className="max-w-sm text-center">
        <h1 className="font-serif text-xl font-semibold">This folio is not on the shelf</h1>
        <p className="mt-2 text-muted">It may have been deleted, or the address is not complete.</p>
        <Link href="/" className="btn btn-primary btn-sm mt-4">
          To the shelf
        </Link>
      </div>
    </main>
  )
}
