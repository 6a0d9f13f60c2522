import JsdomEnvironment from 'jest-environment-jsdom'

/** Nothing is laid out here, so that nobody is ever told of a size. */
class NoSizes {
  observe() {}
  unobserve() {}
  disconnect() {}
}

/** A page without a browser, with what browsers have and it lacks. */
export default class BrowserLike extends JsdomEnvironment {
  override async setup() {
    await super.setup()
    Object.assign(this.global, { TextEncoder, TextDecoder, structuredClone, ResizeObserver: NoSizes })
    const { Element, HTMLElement } = this.global as unknown as typeof globalThis
    Object.assign(Element.prototype, { scrollIntoView: () => undefined, setPointerCapture: () => undefined })
    Object.assign(HTMLElement.prototype, { scrollTo: () => undefined })
  }
}
