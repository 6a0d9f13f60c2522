import type { MessagePort } from 'node:worker_threads'

/** The last that is told. A closed port is not heard of while its thread waits for the next work. */
export const TOLD_ALL = null

/** Does a worker's work and tells at a port what is being done. */
export async function telling<T, Doing>(port: MessagePort, work: (tell: (doing: Doing) => void) => T | Promise<T>): Promise<T> {
  try {
    return await work((doing) => port.postMessage(doing))
  } finally {
    port.postMessage(TOLD_ALL)
    port.close()
  }
}
