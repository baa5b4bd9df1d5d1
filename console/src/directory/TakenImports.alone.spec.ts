import { flushPromises, mount } from '@vue/test-utils'
import { PiniaColada } from '@pinia/colada'
import { createPinia } from 'pinia'
import { expect, it, vi } from 'vitest'
import { defineComponent, h } from 'vue'
import ImportLook from './ImportLook.vue'
import TakenImports from './TakenImports.vue'
import type { Import, TakenImport } from './imports'

const looked: Import = {
  id: '7',
  kind: 'accounts',
  name: 'file.csv',
  lines: 1,
  columns: [{ theirs: 'Firm', samples: ['Ravn'], ours: 'name' }],
  state: 'looked-at',
  says: '',
}
const taken: TakenImport = {
  id: '7',
  kind: 'accounts',
  name: 'file.csv',
  by: 'ina',
  at: '2026-05-04T08:00:00Z',
  added: 1,
  changed: 0,
  undoneAt: null,
  undoneBy: '',
}

const other: TakenImport = { ...taken, id: '3', name: 'before.csv' }

it('knows of a file as soon as it is taken', async () => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  document.cookie = 'XSRF-TOKEN=t'
  let isTaken = false
  vi.stubGlobal('fetch', async (request: Request) => {
    const path = new URL(request.url).pathname
    if (path === '/api/imports') return Response.json(isTaken ? [taken, other] : [other])
    if (path === '/api/imports/7/take') {
      isTaken = true
      return new Response(null, { status: 202 })
    }
    if (path === '/api/imports/7') return Response.json({ ...looked, state: 'done', says: '1 added.' })
    if (path.endsWith('/mapping'))
      return Response.json({
        missing: [],
        added: 1,
        changed: 0,
        unchanged: 0,
        refused: 0,
        examples: [],
        problems: [],
      })
    return Response.json([])
  })
  const Page = defineComponent({
    props: { look: Boolean },
    setup: (props) => () => (props.look ? h(ImportLook, { looked }) : h(TakenImports)),
  })
  const page = mount(Page, { props: { look: false }, global: { plugins: [createPinia(), PiniaColada] } })
  await flushPromises()
  expect(page.text()).not.toContain('file.csv')
  await page.setProps({ look: true })
  await flushPromises()
  await page
    .findAll('button')
    .find((b) => b.text() === 'Take 1 line')!
    .trigger('click')
  await flushPromises()
  // it was so quick that nobody had to ask again
  expect(page.text()).toContain('1 added.')
  expect(page.text()).toContain('Undo…')
  await page.setProps({ look: false })
  await flushPromises()
  expect(page.text()).toContain('file.csv')
  page.unmount()
  vi.useRealTimers()
})
