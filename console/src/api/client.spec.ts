import { afterEach, describe, expect, it, vi } from 'vitest'
import { Refused, answered, api } from './client'

function serve(status: number, body: unknown) {
  const fetched = vi.fn((request: Request) =>
    Promise.resolve(
      new Response(JSON.stringify(request.url ? body : null), {
        status,
        headers: { 'Content-Type': 'application/json' },
      }),
    ),
  )
  vi.stubGlobal('fetch', fetched)
  return fetched
}

afterEach(() => vi.unstubAllGlobals())

describe('the client', () => {
  it('hands out the data of an answer', async () => {
    serve(200, [{ name: 'Corvane mail' }])
    expect(await answered(api.GET('/api/servers'))).toEqual([{ name: 'Corvane mail' }])
  })

  it('turns a problem into a refusal that says what to do', async () => {
    serve(422, {
      title: 'Nothing was added',
      detail: 'Mend it.',
      problems: [{ line: 2, column: '', reason: 'no' }],
    })
    const refused = await answered(api.POST('/api/exclusions', { body: { text: 'x' } })).catch(
      (e: Refused) => e,
    )
    expect(refused).toBeInstanceOf(Refused)
    expect(refused).toMatchObject({
      status: 422,
      message: 'Nothing was added',
      todo: 'Mend it.',
      problems: [{ line: 2 }],
    })
  })

  it('says so when nobody answers', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('failed')))
    await expect(answered(api.GET('/api/servers'))).rejects.toMatchObject({
      status: 0,
      message: 'The service cannot be reached',
    })
  })

  it('sends the CSRF cookie back in a header with what changes something', async () => {
    document.cookie = 'XSRF-TOKEN=abc%3D'
    const fetched = serve(200, {})
    await api.POST('/api/exclusions', { body: { text: 'x' } })
    expect(fetched.mock.calls[0]?.[0].headers.get('X-XSRF-TOKEN')).toBe('abc=')
    await api.GET('/api/servers')
    expect(fetched.mock.calls[1]?.[0].headers.get('X-XSRF-TOKEN')).toBeNull()
  })
})
