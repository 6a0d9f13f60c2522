/**
 * What the record says where sharing out changes how many readings a script waits for.
 * @param title of the assessment
 * @param before readings wanted of each script until then
 * @param now readings wanted from then on
 * @param opens marks that stood by fewer readings, and are open until the others are in
 * @returns null where nothing changes
 */
export function wantedInWords({ title, before, now, opens }: { title: string; before: number; now: number; opens: number }): string | null {
  if (before === now) return null
  const opened = opens > 0 ? `; ${opens} ${opens === 1 ? 'mark is' : 'marks are'} open until they are in` : ''
  return `${title}: ${now} ${now === 1 ? 'reading' : 'readings'} wanted of each script, ${before} before${opened}`
}
