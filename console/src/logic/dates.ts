/** Show a moment in the course's own time zone; a date without a zone is shown as it stands. */
export function inZone(iso: string | null | undefined, zone: string): string {
  if (!iso) return ''
  const moment = new Date(iso)
  if (Number.isNaN(moment.getTime())) return iso
  return new Intl.DateTimeFormat('en-GB', {
    timeZone: zone || 'UTC',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  }).format(moment)
}
