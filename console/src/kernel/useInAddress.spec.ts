import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { reactive } from 'vue'
import { createMemoryHistory, createRouter, RouterView } from 'vue-router'
import { useInAddress } from './useInAddress'

async function opened(path: string) {
  const narrowed = reactive({ find: '', verdict: 'logged' })
  const List = { setup: () => useInAddress(narrowed), template: '<i />' }
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/list', component: List },
      { path: '/other', component: { template: '<b />' } },
    ],
  })
  await router.push(path)
  const app = mount(RouterView, { global: { plugins: [router] } })
  await flushPromises()
  return { narrowed, router, app }
}

describe('what a list is narrowed to', () => {
  it('is filled from the address', async () => {
    const { narrowed } = await opened('/list?find=port&verdict=waiting')
    expect(narrowed).toEqual({ find: 'port', verdict: 'waiting' })
  })
  it('goes into the address, but for what is as usual, and leaves the rest of it', async () => {
    const { narrowed, router } = await opened('/list?view=table')
    narrowed.find = 'port'
    await flushPromises()
    expect(router.currentRoute.value.query).toEqual({ view: 'table', find: 'port' })
    narrowed.find = ''
    await flushPromises()
    expect(router.currentRoute.value.query).toEqual({ view: 'table' })
  })
  it('follows the address, and takes nothing odd from it', async () => {
    const { narrowed, router } = await opened('/list?find=port')
    await router.push('/list?find=a&find=b&verdict=waiting')
    await flushPromises()
    expect(narrowed).toEqual({ find: '', verdict: 'waiting' })
  })
  it('changes no other page’s address', async () => {
    const { narrowed, router } = await opened('/list')
    await router.push('/other')
    narrowed.find = 'late'
    await flushPromises()
    expect(router.currentRoute.value.query).toEqual({})
  })
})
