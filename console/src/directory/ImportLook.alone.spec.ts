import { flushPromises, mount } from '@vue/test-utils'
import { PiniaColada } from '@pinia/colada'
import { createPinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import ImportLook from './ImportLook.vue'
import type { Import } from './imports'

/** What was asked, and how to answer it. */
const asked: { ours: string[]; answer: (added: number) => void }[] = []
beforeEach(() => {
  document.cookie = 'XSRF-TOKEN=t'
  asked.length = 0
  vi.stubGlobal('fetch', async (request: Request) => {
    if (!request.url.endsWith('/mapping')) return Response.json([])
    const { ours } = (await request.json()) as { ours: string[] }
    return new Promise<Response>((answered) => {
      asked.push({
        ours,
        answer: (added) =>
          answered(
            Response.json({
              missing: [],
              added,
              changed: 0,
              unchanged: 0,
              refused: 0,
              examples: [],
              problems: [],
            }),
          ),
      })
    })
  })
})

function looked() {
  const file: Import = {
    id: '7',
    kind: 'accounts',
    name: 'file.csv',
    lines: 9,
    columns: [{ theirs: 'Firm', samples: ['Ravn'], ours: 'name' }],
    state: 'looked-at',
    says: '',
  }
  return mount(ImportLook, { props: { looked: file }, global: { plugins: [createPinia(), PiniaColada] } })
}

describe('what a file would do', () => {
  it('is told of the columns that were chosen last, and taken as it was told', async () => {
    const page = looked()
    const take = () => page.findAll('button').find((b) => b.text().startsWith('Take'))
    await flushPromises()
    asked[0]!.answer(1)
    await flushPromises()
    expect(take()!.text()).toBe('Take 1 line')
    expect(take()!.attributes('disabled')).toBeUndefined()

    const choice = page.findComponent({ name: 'VSelect' })
    for (const ours of ['key', 'domains', 'owner']) {
      choice.vm.$emit('update:modelValue', ours)
      await flushPromises()
      expect(take()!.attributes('disabled')).toBeDefined()
    }
    // an answer that comes late is of other columns
    asked[1]!.answer(2)
    await flushPromises()
    expect(take()!.attributes('disabled')).toBeDefined()
    expect(asked.map((a) => a.ours[0])).toEqual(['name', 'key', 'owner'])
    asked[2]!.answer(3)
    await flushPromises()
    expect(take()!.text()).toBe('Take 3 lines')
    expect(take()!.attributes('disabled')).toBeUndefined()
    page.unmount()
  })
})
