import { PiniaColada, useQuery } from '@pinia/colada'
import { mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { describe, expect, it } from 'vitest'
import { defineComponent, h } from 'vue'
import { useAskAgain } from './askAgain'

const settled = (millis: number) => new Promise((done) => setTimeout(done, millis))

describe('asking again', () => {
  it('does not fail when a newer question overtakes it', async () => {
    let aborted = 0
    let asked = 0
    const page = defineComponent({
      setup(_, { expose }) {
        const list = useQuery({
          key: ['list'],
          query: ({ signal }) =>
            new Promise<string>((answer, fail) => {
              const says = `answer ${++asked}`
              setTimeout(() => answer(says), 20)
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
    await settled(40)
    expect(shown.text()).toBe('answer 1')
    const overtaken = askAgain('list')
    const newer = askAgain('list')
    await expect(overtaken).resolves.toBeUndefined()
    expect(aborted).toBeGreaterThan(0)
    // done when it stands there, by whichever question
    expect(shown.text()).toBe('answer 3')
    await newer
    expect(shown.text()).toBe('answer 3')
  })
})
