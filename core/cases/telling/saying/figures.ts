/** "66%", and "under 1%" where rounding would say none. */
export function percent(share: number): string {
  if (share > 0 && share < 0.01) return 'under 1%'
  return `${Math.round(share * 100)}%`
}

/** "2 min", "1 h 20", "3 days": a length of time in words. */
export function minutesWords(minutes: number): string {
  if (minutes < 90) return `${Math.round(minutes)} min`
  if (minutes < 24 * 60)
    return `${Math.floor(minutes / 60)} h ${String(Math.round(minutes % 60)).padStart(2, '0')}`.replace(' 00', '')
  const days = Math.round(minutes / 1440)
  return days === 1 ? '1 day' : `${days} days`
}
