import { passwordOf, type Name } from './people'

/** What a request may carry; an object is sent as JSON, text and bytes as they are. */
interface Sent {
  readonly data?: unknown
  readonly headers?: Record<string, string>
}

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'

/** Speaks HTTP to a server of a test and keeps its cookies, as one browser would. */
export class Client {
  private readonly cookies = new Map<string, string>()

  constructor(readonly address: string) {}

  /** the cookies as a request sends them */
  get cookie(): string {
    return [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; ')
  }

  /** another client with the same cookies */
  copy(): Client {
    const copy = new Client(this.address)
    for (const [name, value] of this.cookies) copy.cookies.set(name, value)
    return copy
  }

  async fetch(path: string, method: Method, { data, headers }: Sent = {}): Promise<Response> {
    const isRaw = data === undefined || typeof data === 'string' || data instanceof Uint8Array
    const type: Record<string, string> = isRaw ? {} : { 'content-type': 'application/json' }
    const answer = await fetch(new URL(path, this.address), {
      method,
      headers: { ...type, ...(this.cookies.size > 0 ? { cookie: this.cookie } : {}), ...headers },
      body: isRaw ? (data as BodyInit | undefined) : JSON.stringify(data),
    })
    for (const line of answer.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(line)!
      if (value === '' || /;\s*max-age=0/i.test(line)) this.cookies.delete(name!)
      else this.cookies.set(name!, value!)
    }
    return answer
  }

  get = (path: string, sent?: Sent) => this.fetch(path, 'GET', sent)
  post = (path: string, sent?: Sent) => this.fetch(path, 'POST', sent)
  put = (path: string, sent?: Sent) => this.fetch(path, 'PUT', sent)
  patch = (path: string, sent?: Sent) => this.fetch(path, 'PATCH', sent)
  delete = (path: string, sent?: Sent) => this.fetch(path, 'DELETE', sent)

  async signIn(name: Name): Promise<this> {
    const answer = await this.post('/api/session', { data: { signIn: name, password: passwordOf(name) } })
    if (!answer.ok) throw new Error(`${name} was not signed in: ${await answer.text()}`)
    return this
  }
}
