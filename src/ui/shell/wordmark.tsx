export function Wordmark() {
  return (
    <span className="flex items-center gap-2 whitespace-nowrap">
      <svg width="20" height="18" viewBox="0 0 20 18" aria-hidden>
        <path d="M1 10h4v8H1zM7 5h4v13H7zM13 8h3v10h-3z" fill="currentColor" />
        <path d="M18 3v15" stroke="var(--color-primary)" strokeWidth="2" />
        <circle cx="18" cy="2.4" r="2.2" fill="var(--color-primary)" />
      </svg>
      <span className="font-serif text-[17px] font-semibold">Keen Plot</span>
    </span>
  )
}
