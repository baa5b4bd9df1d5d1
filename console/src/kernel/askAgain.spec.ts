import { PiniaColada, useQuery } from '@pinia/colada'
import { mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { describe, expect, it } from 'vitest'
import { defineComponent, h } from 'vue'
import { useAskAgain } from './askAgain'

describe('asking again', () => {
  it('does not fail when a newer question overtakes it', async () => {
    let aborted = 0
    const page = defineComponent({
      setup(_, { expose }) {
        const list = useQuery({
          key: ['list'],
          query: ({ signal }) =>
            new Promise<string>((answer, fail) => {
              setTimeout(() => answer('new'), 20)
              signal.addEventListener('abort', () => {
                aborted++
                fail(signal.reason as Error)
              })
            }),
        })
        expose({ askAgain: useAskAgain(), list })
        return () => h('p', list.data.value)
      },
    })
    const shown = mount(page, { global: { plugins: [createPinia(), PiniaColada] } })
    const { askAgain } = shown.vm as unknown as { askAgain: ReturnType<typeof useAskAgain> }
    const overtaken = askAgain('list')
    const newer = askAgain('list')
    await expect(overtaken).resolves.toBeUndefined()
    await newer
    expect(aborted).toBeGreaterThan(0)
    expect(shown.text()).toBe('new')
  })
})
