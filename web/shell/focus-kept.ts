import { TEXT_FIELDS } from '../settings/keys'
import { goTo, heading } from './heading'

/** What one goes on from by key. */
const CONTROLS = ['a[href]', 'button', 'input:not([type=hidden])', 'select', 'textarea', 'summary', '[tabindex]:not([tabindex="-1"])']
  .map((c) => `${c}:not(:disabled)`)
  .join()
/** Where what belongs together ends: beyond it a control at the same place would be another matter. */
const WHOLE = 'section, aside, main, header, form, .modal-content'
/** A button that saves is out of use so long, and has the focus again. */
const SAVING_MS = 600

interface Place {
  element: Element
  /** What it stood in, the nearest first, each with its place among the controls there. */
  around: { within: Element; place: number }[]
}

const controlsIn = (within: Element): HTMLElement[] => [...within.querySelectorAll<HTMLElement>(CONTROLS)]
/** Where keys are letters: one comes there by typing alone. */
const isText = (element: Element): boolean => element.matches(TEXT_FIELDS)
const isOut = (element: Element): boolean => element.matches(':disabled')

function placeOf(element: Element): Place {
  const around: Place['around'] = []
  for (let within = element.parentElement; within; within = within.parentElement) {
    around.push({ within, place: controlsIn(within).indexOf(element as HTMLElement) })
    if (within.matches(WHOLE)) break
  }
  return { element, around }
}

/** To what stands in its place now, else to the heading of what it stood in, else to the page's. */
function goOnFrom({ element, around }: Place): void {
  const there = around.filter(({ within }) => within.isConnected)
  for (const { within, place } of there) {
    const controls = controlsIn(within)
    const from = Math.max(0, place)
    const nearest = [...controls.slice(from), ...controls.slice(0, from).reverse()]
    const next = nearest.find((c) => isText(element) || !isText(c))
    next?.focus()
    if (next && document.activeElement === next) return
  }
  const title = there.at(-1)?.within.querySelector<HTMLElement>('h1, h2') ?? heading()
  if (title) goTo(title, { preventScroll: true })
}

/**
 * Where what had the focus goes (it was removed, or is out of use), the focus goes to what stands in its place: it is never nowhere.
 * Whoever moves it on purpose comes first. @returns what ends it
 */
export function keepFocus(): () => void {
  let last: Place | null = null
  let waiting: ReturnType<typeof setTimeout> | undefined
  const nowhere = () => document.activeElement === document.body || document.activeElement === null

  const onFocus = ({ target }: FocusEvent) => {
    clearTimeout(waiting)
    last = target instanceof Element ? placeOf(target) : null
  }
  // Left on purpose it is still there.
  const onLeft = ({ target, relatedTarget }: FocusEvent) => {
    if (relatedTarget !== null) return
    setTimeout(() => {
      if (last?.element === target && last?.element.isConnected && !isOut(last.element) && nowhere()) last = null
    })
  }
  const restore = () => {
    if (!last || !nowhere()) return
    if (last.element.isConnected && !isOut(last.element)) (last.element as HTMLElement).focus()
    else goOnFrom(last)
  }
  const changes = new MutationObserver(() => {
    // Not yet nowhere, perhaps: what is out of use loses the focus as the page is next drawn, and nothing tells of that.
    if (!last || (last.element.isConnected && !isOut(last.element))) return
    clearTimeout(waiting)
    waiting = setTimeout(restore, last.element.isConnected ? SAVING_MS : 0)
  })
  document.addEventListener('focusin', onFocus)
  document.addEventListener('focusout', onLeft)
  changes.observe(document.body, { childList: true, subtree: true, attributes: true, attributeFilter: ['disabled'] })
  return () => {
    clearTimeout(waiting)
    document.removeEventListener('focusin', onFocus)
    document.removeEventListener('focusout', onLeft)
    changes.disconnect()
  }
}
