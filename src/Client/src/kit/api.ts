import createClient, { type Middleware } from 'openapi-fetch'
import type { components, paths } from './api-types'

/** Types of the HTTP contract, generated from docs/openapi.json. */
export type Schemas = components['schemas']

/** A problem as the server tells it (RFC 9457). */
export interface Problem {
  status: number
  title: string
  detail?: string
  code?: string
  errors?: Record<string, string[]>
  posts?: Schemas['PostResponse'][]
}

/** A file to send, with whatever goes along. */
export function fileBody(file: File, more: Record<string, string> = {}) {
  const form = new FormData()
  form.append('file', file)
  for (const [name, value] of Object.entries(more)) form.append(name, value)
  return { body: form as never, bodySerializer: (body: unknown) => body as FormData }
}

/** What a query or mutation throws: always with a sentence for the person. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail ?? problem.title)
  }
}

let form: { header: string; token: string } | null = null

/** Remembers the antiforgery token that sign-in and me give out. */
export function keepToken(header: string, token: string) {
  form = { header, token }
}

const carryToken: Middleware = {
  onRequest({ request }) {
    if (form && request.method !== 'GET') request.headers.set(form.header, form.token)
    return request
  },
}

/** Acts that wait for the password once more: all go on, or none. */
export const again = (() => {
  let waiting: ((proved: boolean) => void)[] = []
  const listeners = new Set<() => void>()
  const tell = () => listeners.forEach((listener) => listener())
  return {
    waits: () => waiting.length > 0,
    subscribe: (listener: () => void) => {
      listeners.add(listener)
      return () => void listeners.delete(listener)
    },
    ask: () =>
      new Promise<boolean>((resolve) => {
        waiting = [...waiting, resolve]
        tell()
      }),
    settle: (proved: boolean) => {
      const all = waiting
      waiting = []
      tell()
      all.forEach((resolve) => resolve(proved))
    },
  }
})()

/** What was sent, so that it can be sent once more. */
const sent = new Map<string, Request>()

const askAgain: Middleware = {
  onRequest({ request, id }) {
    if (request.method !== 'GET') sent.set(id, request.clone())
  },
  async onResponse({ response, id }) {
    const request = sent.get(id)
    sent.delete(id)
    if (response.status !== 403 || !request) return
    const problem = (await response.clone().json()) as Partial<Problem>
    if (problem.code !== 'signIn.again' || !(await again.ask())) return
    return fetch(request)
  },
  onError({ id }) {
    sent.delete(id)
  },
}

export const client = createClient<paths>({ baseUrl: '/', credentials: 'same-origin' })
client.use(carryToken, askAgain)

const away: Problem = {
  status: 0,
  title: 'No connection',
  detail: 'The server cannot be reached. What you typed is kept; try again in a moment.',
}

/** Unwraps an answer: its data, or an ApiError. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result
  try {
    result = await call
  } catch {
    throw new ApiError(away)
  }
  if (result.response.ok) return result.data as T
  const problem = result.error as Partial<Problem> | undefined
  throw new ApiError({ status: result.response.status, title: problem?.title ?? 'Something went wrong', ...problem })
}

/** What an answer says while it is being made: its bytes as they come. */
export async function stream(path: string, body: unknown, signal: AbortSignal): Promise<ReadableStream<Uint8Array>> {
  const headers = { 'Content-Type': 'application/json', ...(form && { [form.header]: form.token }) }
  let response
  try {
    response = await fetch(path, { method: 'POST', headers, body: JSON.stringify(body), signal })
  } catch (error) {
    throw signal.aborted ? error : new ApiError(away)
  }
  if (response.ok && response.body) return response.body
  const problem = (await response.json().catch(() => ({}))) as Partial<Problem>
  throw new ApiError({ status: response.status, title: problem.title ?? 'Something went wrong', ...problem })
}
