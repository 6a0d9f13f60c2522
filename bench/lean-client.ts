import { Agent, request } from 'node:http'
import { text } from 'node:stream/consumers'

/** Sends over connections that are kept, with little of its own: what is measured is the server and the way to it. */
export function leanClient(address: string, cookie: string, connections: number) {
  const agent = new Agent({ keepAlive: true, maxSockets: connections })
  return {
    send: (method: string, path: string, body?: unknown): Promise<string> =>
      new Promise((done, failed) => {
        const sent = body === undefined ? '' : JSON.stringify(body)
        const headers = { cookie, origin: address, 'content-type': 'application/json', 'content-length': Buffer.byteLength(sent) }
        const asked = request(address + path, { method, agent, headers }, (answer) => {
          if (answer.statusCode === 200) text(answer).then(done, failed)
          else failed(new Error(`${method} ${path} was answered ${answer.statusCode}`))
        })
        asked.on('error', failed).end(sent)
      }),
    end: () => agent.destroy(),
  }
}
