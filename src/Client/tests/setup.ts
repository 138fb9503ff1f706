import { server } from './server'

// In a browser an address is relative to its page; elsewhere it has to be whole.
globalThis.Request = class extends Request {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === 'string' ? new URL(input, location.href) : input, init)
  }
}
globalThis.fetch = (input) => server.reply(input as Request)
