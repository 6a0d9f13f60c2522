/** Whether the server has pages of another version by now than this one: its first script is not the one that the server names. */
export async function isNewVersion(): Promise<boolean> {
  const own = document.querySelector<HTMLScriptElement>('script[type="module"][src]')?.getAttribute('src')
  if (!own) return false
  const served = await fetch('/', { cache: 'no-store' })
    .then((answer) => (answer.ok ? answer.text() : ''))
    .catch(() => '')
  return served !== '' && !served.includes(own)
}

/** Told when a page finds out that there is a new version. */
export const versionNews = new EventTarget()

/** Looks whether there is one; after the server was away, as an update takes it away for a moment. */
export async function lookForVersion(): Promise<void> {
  if (await isNewVersion()) versionNews.dispatchEvent(new Event('new'))
}
