import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { createInterface } from 'node:readline'
import { PASSPHRASE } from '../demo/department'

export interface Served {
  address: string
  send: (method: string, path: string, cookie: string, body?: unknown, headers?: Record<string, string>) => Promise<Response>
  signIn: (name: string) => Promise<string>
}

/** The built server in a process of its own, over the database in a folder, for as long as the work lasts. */
export async function withServer<T>(folder: string, work: (served: Served) => Promise<T>): Promise<T> {
  const child = spawn(process.execPath, ['dist/server/main.js'], {
    env: { ...process.env, NODE_ENV: 'production', PORT: '0', HOST: '127.0.0.1', LEVEL_TABLE_DATA: folder, LOG_LEVEL: 'info' },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  try {
    const port = await new Promise<number>((found) =>
      createInterface({ input: child.stdout }).on('line', (line) => {
        const said = JSON.parse(line) as { msg?: string; port?: number }
        if (said.msg === 'listening') found(said.port!)
      }),
    )
    const address = `http://127.0.0.1:${port}`
    const send: Served['send'] = (method, path, cookie, body, headers = {}) =>
      fetch(address + path, {
        method,
        headers: { cookie, origin: address, 'content-type': 'application/json', ...headers },
        ...(body === undefined ? {} : { body: body instanceof Uint8Array || typeof body === 'string' ? body : JSON.stringify(body) }),
      } as RequestInit)
    const signIn = async (name: string) => {
      const entered = await send('POST', '/api/session', '', { signIn: name, passphrase: PASSPHRASE })
      return entered.headers.get('set-cookie')!.split(';')[0]!
    }
    return await work({ address, send, signIn })
  } finally {
    child.kill()
    await once(child, 'exit')
  }
}
