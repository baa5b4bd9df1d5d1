import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']

/** A refusal as people read it: what is wrong, what to do, and the lines of a file that do not fit. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    title: string,
    readonly todo: string,
    readonly problems: Schemas['LineProblem'][] = [],
  ) {
    super(title)
  }
}

/** The cookie's value goes back in a header, which another site cannot do. */
function csrfToken(): string {
  const found = document.cookie.split('; ').find((c) => c.startsWith('XSRF-TOKEN='))
  return found ? decodeURIComponent(found.slice('XSRF-TOKEN='.length)) : ''
}

export const api = createClient<paths>({ baseUrl: '/', fetch: (request) => globalThis.fetch(request) })

api.use({
  async onRequest({ request }) {
    if (request.method === 'GET') return request
    // a page that was loaded while the service was away has got none yet: any answer brings it
    if (!csrfToken()) await globalThis.fetch('/api/session').catch(() => undefined)
    request.headers.set('X-XSRF-TOKEN', csrfToken())
    return request
  },
})

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** The answer's data; what was refused is thrown as {@link Refused}. */
export async function answered<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await asked
  } catch (failed) {
    if (failed instanceof DOMException && failed.name === 'AbortError') throw failed
    throw new Refused(
      0,
      'The service cannot be reached',
      'Check that it is running; this page tries again when you do.',
    )
  }
  if (answer.response.ok) return answer.data as T
  const problem = (answer.error ?? {}) as Partial<Schemas['Problem']>
  throw new Refused(
    answer.response.status,
    problem.title ?? `The service answered with status ${answer.response.status}`,
    problem.detail ?? 'Try again.',
    problem.problems ?? [],
  )
}
