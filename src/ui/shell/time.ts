/** “14:02” today, “yesterday”, or “18 November”. */
export function whenWords(iso: string, now = new Date()): string {
  const at = new Date(iso)
  const days = Math.round((startOfDay(now) - startOfDay(at)) / 86_400_000)
  if (days <= 0) return at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
  if (days === 1) return 'yesterday'
  return at.toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'long',
    year: at.getFullYear() === now.getFullYear() ? undefined : 'numeric',
  })
}

/** As `whenWords`, with the time of day: “today 14:02”, “yesterday 14:02”, “18 November 14:02”. */
export function momentWords(iso: string, now = new Date()): string {
  const time = new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
  const day = whenWords(iso, now)
  return day === time ? `today ${time}` : `${day} ${time}`
}

const startOfDay = (date: Date): number =>
  new Date(date.getFullYear(), date.getMonth(), date.getDate()).getTime()
