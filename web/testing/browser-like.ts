import JsdomEnvironment from 'jest-environment-jsdom'

/** Nothing is laid out here, so that nobody is ever told of a size. */
class NoSizes {
  observe() {}
  unobserve() {}
  disconnect() {}
}

/** As much of a request as a router asks of one; Node's own takes no signal of this page. */
class Asked {
  readonly method: string
  readonly signal: AbortSignal | undefined
  constructor(
    readonly url: string,
    init: { method?: string; signal?: AbortSignal } = {},
  ) {
    this.method = init.method ?? 'GET'
    this.signal = init.signal
  }
}

/** A page without a browser, with what browsers have and it lacks. */
export default class BrowserLike extends JsdomEnvironment {
  override async setup() {
    await super.setup()
    Object.assign(this.global, { TextEncoder, TextDecoder, structuredClone, ResizeObserver: NoSizes, Request: Asked })
    const { Element, HTMLElement } = this.global as unknown as typeof globalThis
    Object.assign(Element.prototype, { scrollIntoView: () => undefined, setPointerCapture: () => undefined })
    Object.assign(HTMLElement.prototype, { scrollTo: () => undefined })
  }
}
