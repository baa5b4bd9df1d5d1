import { PiniaColada, useQueryCache } from '@pinia/colada'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { expect, it, vi } from 'vitest'
import { handle } from '../kernel/shortcuts'
import DeedList from './DeedList.vue'

const deed = (id: string) => ({ id, says: `excluded ${id}.example`, by: 'admin', at: '2026-05-04T12:00:00Z' })

it('the last choice is undone, not the one before it, also while the list is asked for anew', async () => {
  document.cookie = 'XSRF-TOKEN=t'
  const posts: string[] = []
  const asked: ((response: Response) => void)[] = []
  vi.stubGlobal('fetch', (request: Request) => {
    const { pathname } = new URL(request.url, 'http://here')
    if (request.method === 'POST') posts.push(pathname)
    if (pathname !== '/api/triage/deeds') return Promise.resolve(Response.json([]))
    return new Promise<Response>((answer) => asked.push(answer))
  })
  const list = mount(DeedList, { global: { plugins: [createPinia(), PiniaColada] } })
  await flushPromises()
  asked[0]!(Response.json([deed('old')]))
  await flushPromises()

  handle(new KeyboardEvent('keydown', { key: 'u' }))
  await flushPromises()
  void useQueryCache().invalidateQueries({ key: ['triage-deeds'] })
  asked[1]!(Response.json([deed('new'), deed('old')]))
  await flushPromises()
  expect(posts).toEqual(['/api/triage/deeds/new/undo'])
  list.unmount()
})
